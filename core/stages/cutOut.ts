import { rgbFromHex } from '../colour/hex';
import { cutOutFindings } from '../findings/cutOutFindings';
import type { Finding } from '../findings/finding';
import { invert, transform } from '../geometry/matrix';
import { cutOutFlat } from '../matte/cutOutFlat';
import { UNSURE_BELOW } from '../matte/enclosedAreas';
import { MOST_TOLERANCE } from '../matte/steadyRange';
import { anchorsField, choiceField, coloursField, numberField, optionalNumberField } from '../params';
import { findExtents } from '../raster/extents';
import { hasTransparency } from '../raster/raster';
import { defineStage } from './stage';

/** An enclosed area as the interface and the command line list it; coordinates in working-picture pixels. */
export interface AreaFact {
  readonly number: number;
  readonly x: number;
  readonly y: number;
  readonly areaPx: number;
  readonly bounds: { x: number; y: number; width: number; height: number };
  readonly decision: 'open' | 'solid';
  readonly certainty: number;
  readonly isUnsure: boolean;
  readonly isChosen: boolean;
  readonly group: number;
  readonly isPale: boolean;
}

export interface CutOutFacts {
  readonly way: 'flat' | 'keep';
  readonly groundHex: string | null;
  readonly noise: number;
  readonly drift: number;
  readonly tolerance: number;
  readonly steady: { from: number; to: number; start: number };
  readonly groundLeft: readonly number[];
  readonly artworkEaten: readonly number[];
  readonly areas: readonly AreaFact[];
}

const nothingMeasured: CutOutFacts = {
  way: 'keep', groundHex: null, noise: 0, drift: 0, tolerance: 0, steady: { from: 0, to: 0, start: 0 }, groundLeft: [], artworkEaten: [], areas: [],
};

/** Takes the mark off its ground, or keeps the transparency it came with. */
export const cutOut = defineStage({
  id: 'cutOut',
  version: 1,
  title: 'Cut out',
  params: {
    way: choiceField({
      label: 'Way', initial: 'flat',
      choices: [{ value: 'flat', label: 'Flat ground' }, { value: 'keep', label: 'Keep its own transparency' }],
    }),
    ground: coloursField({ label: 'Ground', hint: 'Empty: measured at the border. More than one where the mark stands on several colours.', most: 6 }),
    tolerance: optionalNumberField({ label: 'Tolerance', hint: 'How far from the ground colour still counts as ground.', min: 0, max: MOST_TOLERANCE, step: 1, unit: 'levels' }),
    softness: numberField({ label: 'Softness', hint: 'Blurs the edge; 0 keeps it as measured.', initial: 0, min: 0, max: 8, step: 0.1, unit: 'px' }),
    choke: numberField({ label: 'Choke or spread', hint: 'Moves the edge: above 0 inwards, below 0 outwards.', initial: 0, min: -5, max: 5, step: 0.1, unit: 'px' }),
    areas: anchorsField({ label: 'Enclosed areas', hint: 'Your decisions, each kept by a point in its area.', most: 2000 }),
    enclosed: choiceField({
      label: 'Other enclosed areas', initial: 'judged',
      choices: [{ value: 'judged', label: 'As judged' }, { value: 'open', label: 'All open' }],
    }),
  },
  run(input, p, ctx) {
    const { raster, toWorking } = input;
    if (p.way === 'keep') return { picture: input, findings: keepFindings(input.raster), facts: nothingMeasured };
    const back = invert(toWorking);
    const scale = toWorking[0];
    const anchors = p.areas.map((a) => ({ ...transform(back, a.x, a.y), decision: a.decision }));
    const { picture, facts } = cutOutFlat(raster, {
      grounds: p.ground.map(rgbFromHex),
      tolerance: p.tolerance, softnessPx: p.softness / scale, chokePx: p.choke / scale, anchors, enclosed: p.enclosed,
    }, ctx.onStep);
    const areas: AreaFact[] = facts.areas.map((a) => ({
      number: a.number, ...roundPoint(transform(toWorking, a.x + 0.5, a.y + 0.5)), areaPx: Math.round(a.areaPx * scale * scale),
      bounds: { ...roundPoint(transform(toWorking, a.bounds.x, a.bounds.y)), width: Math.round(a.bounds.width * scale), height: Math.round(a.bounds.height * scale) },
      decision: a.decision, certainty: Math.round(a.certainty * 100) / 100, isUnsure: a.certainty < UNSURE_BELOW, isChosen: a.isChosen, group: a.group, isPale: a.shape.isPale,
    }));
    return {
      picture: { raster: picture, toWorking },
      findings: cutOutFindings(picture, facts, toWorking),
      facts: {
        way: 'flat' as const, groundHex: facts.groundHex, noise: facts.ground.noise, drift: facts.ground.drift, tolerance: facts.tolerance,
        steady: { from: facts.study.steadyFrom, to: facts.study.steadyTo, start: facts.study.start },
        groundLeft: facts.study.groundLeft, artworkEaten: facts.study.artworkEaten, areas,
      } satisfies CutOutFacts as CutOutFacts,
    };
  },
});

const roundPoint = (p: { x: number; y: number }) => ({ x: Math.floor(p.x), y: Math.floor(p.y) });

function keepFindings(raster: Parameters<typeof findExtents>[0]): Finding[] {
  const stage = 'cutOut';
  if (!findExtents(raster)) return [{ id: 'nothing-left', stage, weight: 'fault', title: 'nothing is visible', detail: 'Every pixel of the original is see-through.', places: [] }];
  if (hasTransparency(raster)) return [];
  return [{ id: 'no-flat-ground', stage, weight: 'risk', title: 'no transparency', detail: 'The original has no see-through pixel, so its ground stays. Choose the flat ground way to remove it.', places: [] }];
}
