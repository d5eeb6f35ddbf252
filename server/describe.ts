import type { Finding } from '../core/findings/finding';
import type { Inspection } from '../core/inspect/inspectPicture';
import type { MasterResult } from '../core/recipe/runRecipe';
import { cutOutFacts } from '../core/recipe/runRecipe';

/** The findings of a run as they are stored: without their places, which a reduced picture knows only roughly. */
export const describeFindings = (result: MasterResult): Finding[] => result.findings.map((f) => ({ ...f, places: [] }));

/** What a file is and what is proposed, as one sentence for the take-in list. */
export function describeFound(seen: Inspection, result: MasterResult | null): string {
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  if (seen.way === 'transparent') return `Already transparent, ${percent(seen.clearShare)} of it clear: kept as it is.`;
  const ground = seen.groundHex ? `ground ${seen.groundHex}` : 'no common ground colour';
  if (!result) return `No flat ground found (${ground}): kept as it is until you pick the ground's colour.`;
  const areas = cutOutFacts(result).areas;
  const inside = areas.length === 0 ? 'no enclosed areas' : `${areas.length} enclosed ${areas.length === 1 ? 'area' : 'areas'}, ${areas.filter((a) => a.decision === 'open').length} open`;
  const caution = seen.way === 'paper' ? ' It looks like paper, so check the edges.' : '';
  return `Flat ${ground}: cut out, ${inside}.${caution}`;
}
