import { rgbFromHex } from '../colour/hex';
import { cutOutFindings } from '../findings/cutOutFindings';
import { invertProjective, project } from '../geometry/projective';
import { cutOutFlat } from '../matte/cutOutFlat';
import { UNSURE_BELOW } from '../matte/enclosedAreas';
import type { Anchor } from '../params';
import type { AreaFact, FlatWayFacts } from './cutOutFacts';
import type { Artwork } from '../artwork/artwork';
import type { StageContext, StageResult } from './stage';

export interface FlatSettings {
  readonly ground: readonly string[];
  readonly tolerance: number | null;
  readonly softness: number;
  readonly choke: number;
  readonly cleanUp: number;
  readonly areas: readonly Anchor[];
  readonly enclosed: 'judged' | 'open';
}

/** The flat ground way of cutting out: settings in full-size pixels, facts in working-picture pixels. */
export function runFlatWay(input: Artwork, p: FlatSettings, ctx: StageContext): StageResult & { facts: FlatWayFacts } {
  const { raster, toWorking, reduction } = input;
  const back = invertProjective(toWorking);
  const anchors = p.areas.map((a) => ({ ...project(back, a.x, a.y), decision: a.decision }));
  const { picture, within, facts } = cutOutFlat(
    raster,
    {
      grounds: p.ground.map(rgbFromHex),
      tolerance: p.tolerance,
      softnessPx: p.softness / reduction,
      chokePx: p.choke / reduction,
      anchors,
      enclosed: p.enclosed,
      cleanUp: p.cleanUp,
      unchecked: ctx.pictureOnly,
      consumes: ctx.consumes,
    },
    ctx.onStep,
  );
  const place = (x: number, y: number) => {
    const at = project(toWorking, x, y);
    return { x: Math.floor(at.x), y: Math.floor(at.y) };
  };
  const areas: AreaFact[] = facts.areas.map((a) => ({
    number: a.number,
    ...place(a.x + 0.5, a.y + 0.5),
    areaPx: Math.round(a.areaPx * reduction * reduction),
    bounds: {
      ...place(a.bounds.x, a.bounds.y),
      width: Math.round(a.bounds.width * reduction),
      height: Math.round(a.bounds.height * reduction),
    },
    decision: a.decision,
    certainty: Math.round(a.certainty * 100) / 100,
    isUnsure: a.certainty < UNSURE_BELOW,
    isChosen: a.isChosen,
    group: a.group,
    asks: a.isChosen ? null : a.asks,
    isPale: a.shape.isPale,
  }));
  return {
    artwork: { ...input, raster: picture, drawing: null, within },
    findings: ctx.pictureOnly ? [] : cutOutFindings(picture, facts, p, input),
    facts: {
      way: 'flat',
      groundHex: facts.groundHex,
      noise: facts.ground.noise,
      drift: facts.ground.drift,
      tolerance: facts.tolerance,
      steady: { from: facts.study.steadyFrom, to: facts.study.steadyTo, start: facts.study.start },
      groundLeft: facts.study.groundLeft,
      artworkEaten: facts.study.artworkEaten,
      areas,
    },
  };
}
