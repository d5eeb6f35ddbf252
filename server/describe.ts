import type { Finding } from '../core/findings/finding';
import type { Recipe } from '../core/recipe/recipe';
import type { Inspection } from '../core/inspect/inspectPicture';
import type { MasterResult } from '../core/recipe/runRecipe';
import { cutOutFacts } from '../core/recipe/runRecipe';
import { type PaperWayFacts, areasOf } from '../core/stages/cutOutFacts';

/** The findings of a run as they are stored: without their places, which a reduced picture knows only roughly. */
export const describeFindings = (result: MasterResult): Finding[] => result.findings.map((f) => ({ ...f, places: [] }));

/** What a file is and what is proposed, as one sentence for the take-in list. */
export function describeFound(seen: Inspection, recipe: Recipe, result: MasterResult | null): string {
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  if (seen.way === 'transparent') return `Already transparent, ${percent(seen.clearShare)} of it clear: kept as it is.`;
  if (seen.way === 'opaque') return `All of one colour, ${seen.groundHex}: kept opaque, as a plate or a strip.`;
  const ground = seen.groundHex ? `ground ${seen.groundHex}` : 'no common ground colour';
  if (!result) return `No flat ground found (${ground}): kept as it is until you pick the ground's colour.`;
  const facts = cutOutFacts(result);
  if (facts.way === 'paper') return describeInk(facts, recipe.stages.crop.turn);
  const areas = areasOf(facts);
  const inside =
    areas.length === 0
      ? 'no enclosed areas'
      : `${areas.length} enclosed ${areas.length === 1 ? 'area' : 'areas'}, ` +
        `${areas.filter((a) => a.decision === 'open').length} open`;
  return `Flat ${ground}: cut out, ${inside}.`;
}

function describeInk({ marks, lineCount }: PaperWayFacts, angle: number): string {
  const lines = lineCount ? ', printed lines taken out' : '';
  if (marks.length > 1) return `Ink on paper, ${marks.length} signatures found${lines}. Take one, or make each a mark.`;
  const leaning =
    Math.abs(angle) >= 1 ? `, ${Math.abs(angle).toFixed(1)}° ${angle < 0 ? 'uphill' : 'downhill'} and set level` : '';
  return `Ink on paper: one signature${leaning}${lines}.`;
}
