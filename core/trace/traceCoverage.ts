import type { Plane } from '../raster/raster';
import { type Path, PathBuilder, joinPaths } from '../vector/path';
import { signedAreaOf } from '../vector/windings';
import { type EdgeRing, edgePoints } from './edgePoints';
import { findCorners } from './findCorners';
import { type FittedSection, type Section, fitSection } from './fitSection';
import { type CrackRing, followRings } from './followRings';
import { grainOf } from './grainOf';
import { insideMask } from './insideMask';
import { findTangled, withoutLoops } from './untangle';

/** How an outline is drawn. */
export interface TraceOptions {
  /** How far an outline may be from what is seen, px. */
  readonly tolerancePx: number;
  /** A turn of at least so much is a corner, degrees. */
  readonly cornerDeg: number;
  /** Rings of less area are left out, px. */
  readonly smallestPx: number;
  /** Coverage, of 255, that may be noise: thin strokes are told from it by being stronger. */
  readonly faint?: number;
  /** In what steps edges run, px, where the picture was drawn by samples; see grainOf. */
  readonly grainPx?: number;
}

export const plainTrace: TraceOptions = { tolerancePx: 0.25, cornerDeg: 28, smallestPx: 1.5 };

/** Outlines of one shape, with what they were drawn from. */
export interface Traced {
  readonly path: Path;
  /** Where the border was measured to run, ring by ring, in the order of the path's rings. */
  readonly rings: readonly EdgeRing[];
  /** How much more closely than the tolerance each ring is followed, 0..1. */
  readonly fineness: readonly number[];
  readonly nodes: number;
}

/**
 * Closed outlines of a coverage map: cubic Béziers and lines, outer rings clockwise on the screen and holes the other
 * way, so that both fill rules agree.
 * @param plane  coverage 0 to 255
 */
export function traceCoverage(plane: Plane, options: TraceOptions): Traced {
  const rings: EdgeRing[] = [];
  const fineness: number[] = [];
  for (const crack of borderRings(plane, options.faint)) {
    if (Math.abs(crack.area2) / 2 < options.smallestPx) continue;
    const ring = edgePoints(plane, crack);
    if (ring.xs.length < 3) continue;
    rings.push(ring);
    fineness.push(finenessOf(crack));
  }
  return fitRings(rings, fineness, { ...options, grainPx: options.grainPx ?? grainOf(plane) });
}

/** The rings of pixel sides round everything that a coverage map holds. */
export function borderRings(plane: Plane, faint?: number): CrackRing[] {
  const { width, height, data } = plane;
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= width || y >= height ? 0 : data[y * width + x]);
  // Four pixels round a grid corner, two of them inside by the corner only: one piece where they are half covered.
  const joins = (x: number, y: number) => at(x - 1, y - 1) + at(x, y - 1) + at(x - 1, y) + at(x, y) >= 510;
  return followRings(insideMask(plane, faint), width, height, joins);
}

type FitOptions = Pick<TraceOptions, 'tolerancePx' | 'cornerDeg' | 'grainPx'>;

/** A ring that crosses itself or another is drawn more closely, in these shares of its tolerance. */
const CLOSER = [0.5, 0.25];
/** A ring of less area, px, is none. */
const LEAST_AREA = 0.2;

/**
 * Measured borders as lines and curves within a tolerance. None crosses itself: a ring that does is drawn more closely,
 * and at last place by place, without the loops. Rings of no area are left out.
 */
export function fitRings(rings: readonly EdgeRing[], fineness: readonly number[], options: FitOptions): Traced {
  const fitted = rings.map((ring, k) => fitRing(ring, fineness[k], options));
  let tangled = findTangled(fitted.map((f) => f.path));
  for (const share of CLOSER) {
    if (tangled.size === 0) break;
    const closer = { ...options, tolerancePx: options.tolerancePx * share, grainPx: 0 };
    for (const k of tangled) fitted[k] = fitRing(rings[k], fineness[k], closer);
    tangled = findTangled(fitted.map((f) => f.path));
  }
  for (const k of tangled) {
    const path = withoutLoops(Array.from(rings[k].xs, (x, n) => [x, rings[k].ys[n]] as const));
    fitted[k] = { path, nodes: path.verbs.length - 1 };
  }
  const kept = fitted.flatMap(({ path }, k) => (Math.abs(signedAreaOf(path)) >= LEAST_AREA ? [k] : []));
  return {
    path: joinPaths(kept.map((k) => fitted[k].path)),
    rings: kept.map((k) => rings[k]),
    fineness: kept.map((k) => fineness[k]),
    nodes: kept.reduce((sum, k) => sum + fitted[k].nodes, 0),
  };
}

interface FittedRing {
  readonly path: Path;
  readonly nodes: number;
}

function fitRing(ring: EdgeRing, fineness: number, { tolerancePx, cornerDeg, grainPx = 0 }: FitOptions): FittedRing {
  const sections = sectionsOf(ring, (cornerDeg * Math.PI) / 180);
  const builder = new PathBuilder();
  const nodes = addRing(
    builder,
    sections.map((section) => fitSection(section, tolerancePx * fineness, grainPx * grainShare(fineness))),
  );
  return { path: builder.done(), nodes };
}

/** Thin rings are followed as closely as if no steps were known: of them more is lost than is gained. */
const grainShare = (fineness: number) => (fineness < 1 ? 0 : 1);

/** A ring of strokes thinner than this, px, is followed more closely: what it is off counts for more. */
const THIN_PX = 14;
const FINEST = 0.4;

function finenessOf({ area2, ways }: CrackRing): number {
  const width = Math.abs(area2) / ways.length;
  return Math.max(FINEST, Math.min(1, width / THIN_PX));
}

function sectionsOf(ring: EdgeRing, leastAngleRad: number): Section[] {
  const { xs, ys } = ring;
  const n = xs.length;
  const corners = findCorners(ring, leastAngleRad);
  if (corners.length === 0) {
    const closed = (v: Float64Array) => Float64Array.from({ length: n + 1 }, (_, k) => v[k % n]);
    return [{ xs: closed(xs), ys: closed(ys), out: null, into: null }];
  }
  return corners.map((corner, c) => {
    const next = corners[(c + 1) % corners.length];
    const [px, py] = [[corner.x], [corner.y]];
    // From behind what belongs to the corner up to what belongs to the next one.
    const from = (corner.to + 1) % n;
    // Of two close corners each may claim the places between them.
    const ahead = (next.at - corner.at + n) % n || n;
    const claimed = ((corner.to - corner.at + n) % n) + ((next.at - next.from + n) % n);
    const count = Math.max(0, ahead - claimed - 1);
    for (let k = 0; k < count; k++) {
      px.push(xs[(from + k) % n]);
      py.push(ys[(from + k) % n]);
    }
    px.push(next.x);
    py.push(next.y);
    return { xs: Float64Array.from(px), ys: Float64Array.from(py), out: corner.outOf, into: next.into };
  });
}

/** @returns how many nodes it has */
function addRing(builder: PathBuilder, sections: readonly FittedSection[]): number {
  const [first] = sections;
  builder.moveTo(...(first.start as [number, number]));
  let nodes = 0;
  sections.forEach(({ pieces }, s) => {
    pieces.forEach((piece, p) => {
      nodes++;
      const isLast = s === sections.length - 1 && p === pieces.length - 1;
      if (piece.kind === 'curve') builder.curveTo(...(piece.curve as [number, number, number, number, number, number]));
      // The ring's last line is drawn by closing it.
      else if (!isLast) builder.lineTo(...(piece.to as [number, number]));
    });
  });
  builder.close();
  return nodes;
}
