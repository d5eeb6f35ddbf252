import { rgbFromHex } from '../colour/hex';
import { inkFindings } from '../findings/inkFindings';
import { invertProjective, project } from '../geometry/projective';
import { cutOutInk } from '../ink/cutOutInk';
import type { InkMark } from '../ink/inkMarks';
import type { Point } from '../geometry/projective';
import type { RectPx } from '../params';
import type { MarkFact, PaperWayFacts } from './cutOutFacts';
import { type Artwork, wholeOf } from '../artwork/artwork';
import type { StageContext, StageResult } from './stage';

export interface PaperSettings {
  readonly level: number | null;
  readonly weight: number;
  readonly ink: readonly string[];
  readonly keepLines: boolean;
  readonly mark: Point | null;
}

/** The ink on paper way of cutting out. */
export function runPaperWay(
  input: Artwork,
  p: PaperSettings,
  ctx: StageContext,
): StageResult & { facts: PaperWayFacts } {
  const { raster, toWorking, reduction } = input;
  const { picture, ink, facts } = cutOutInk(
    raster,
    {
      level: p.level,
      weightPx: p.weight / reduction,
      keepLines: p.keepLines,
      colour: p.ink.length ? rgbFromHex(p.ink[0]) : null,
      at: p.mark ? project(invertProjective(toWorking), p.mark.x, p.mark.y) : null,
    },
    ctx.onStep,
  );
  const { study } = facts;
  return {
    artwork: { ...input, raster: picture, drawing: null, ink, within: wholeOf(picture) },
    findings: ctx.pictureOnly ? [] : inkFindings(picture, facts, input, p.mark !== null),
    facts: {
      way: 'paper',
      inkHex: facts.inkHex,
      paperHex: facts.paperHex,
      level: facts.level,
      steady: { from: study.steadyFrom, to: study.steadyTo, start: study.start },
      levels: study.levels,
      strayPieces: study.strayPieces,
      inkLost: study.inkLost,
      strokePx: facts.strokePx * reduction,
      lineCount: facts.lineCount,
      marks: facts.marks.map((m) => toMarkFact(m, input)),
    },
  };
}

/** A mark as screens and command line know it. */
export function toMarkFact(m: InkMark & { readonly inkHex?: string }, { toWorking, reduction }: Artwork): MarkFact {
  const grow = (b: RectPx): RectPx => ({
    x: b.x * reduction,
    y: b.y * reduction,
    width: b.width * reduction,
    height: b.height * reduction,
  });
  const box = grow(m.box);
  const x = Math.floor(box.x);
  const y = Math.floor(box.y);
  return {
    number: m.number,
    x,
    y,
    width: Math.ceil(box.x + box.width) - x,
    height: Math.ceil(box.y + box.height) - y,
    angleDeg: m.angleDeg,
    ...(m.inkHex === undefined ? {} : { inkHex: m.inkHex }),
    region: grow(m.region),
    at: project(toWorking, m.box.x + m.box.width / 2, m.box.y + m.box.height / 2),
  };
}
