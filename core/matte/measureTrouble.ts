import { type Call, call, roomFor } from '../kernels/heap';
import type { Raster } from '../raster/raster';
import { setGround, viewsOf } from './groundDistance';
import type { Ground } from './measureGround';
import type { RowSegments } from './rowSegments';

export interface Trouble {
  /**
   * Edge pixels still tinted by the ground: their share of all edge pixels, how much ground they hold, and the worst
   * places.
   */
  readonly fringe: { readonly share: number; readonly strength: number; readonly places: readonly Spot[] };
  /** What stands out from the ground but was taken away: how much, and where most of it is. */
  readonly eaten: { readonly areaPx: number; readonly places: readonly Spot[] };
  /** Small pieces that stand alone, largest first. */
  readonly specks: readonly Spot[];
}

/** A place in pixels of the picture, and how much of the trouble lies there. */
export interface Spot {
  readonly x: number;
  readonly y: number;
  readonly amount: number;
}

/** Trouble closer together than this is one place to visit. */
const CELL = 40;
/** More of the ground than this in a visible edge pixel shows on another ground. */
const TINTED = 0.34;
/** Beyond the tolerance by so much, a pixel surely was no ground. */
const SURELY = 26;

/** A piece this small beside the mark's own size stands out as a speck when it is alone. */
const SPECK_SHARE = 0.0003;
/** A dot of so few pixels is a speck beside any mark. */
const LEAST_SPECK = 14;
/** And no larger than this. */
const LARGEST_SPECK = 120;
/** Alone: nothing else visible within this many pixels. */
const ALONE = 9;
/** So many pixels apart the mark's size is told well enough. */
const SAMPLED = 11;

/** Bytes of the kernels' memory that the check takes up. */
export const troubleRoom = (width: number, height: number): number =>
  roomFor(width * height) + 32 * cellsOf(width, height) + 4096;

const cellsOf = (width: number, height: number) => Math.ceil(width / CELL) * Math.ceil(height / CELL);

/**
 * Looks at a finished cut-out with the eyes of somebody who zooms in to check it.
 * @param distance  how far each pixel of the original is from the ground, code values
 * @param segments  of that plane; edges and what is eaten lie in mixed ones
 * @param out       the cut-out, straight alpha
 */
export function measureTrouble(
  ground: Ground,
  distance: Uint8Array,
  { runs }: RowSegments,
  out: Raster,
  tolerance: number,
): Trouble {
  const { width, height, data } = out;
  const cells = cellsOf(width, height);
  return call([distance, runs, data, ...viewsOf(ground)], [], troubleRoom(width, height), (c) => {
    const { k, at, scratch, intsAt, realsAt } = c;
    const [amounts, firsts, order, totals] = [scratch(cells * 16), scratch(cells * 8), scratch(cells * 8), scratch(64)];
    setGround(c, ground, width, height);
    k.startTrouble(at(data), width, height);
    k.findTrouble({
      distance: at(distance),
      runs: at(runs),
      runCount: runs.length,
      surely: Math.min(255, Math.floor(tolerance + SURELY)),
      tinted: TINTED,
      size: CELL,
      amounts,
      firsts,
      order,
      totals,
    });
    const spots = (table: number, count: number) =>
      [...intsAt(order + table * cells * 4, count)]
        .map((cell) => {
          const first = intsAt(firsts + (table * cells + cell) * 4, 1)[0] - 1;
          return {
            x: first % width,
            y: Math.floor(first / width),
            amount: realsAt(amounts + (table * cells + cell) * 8, 1)[0],
          };
        })
        .sort((a, b) => b.amount - a.amount);
    const [edges, tinted, strength, areaPx, tintedCells, goneCells] = realsAt(totals, 6);
    return {
      fringe: {
        share: edges ? tinted / edges : 0,
        strength: tinted ? strength / tinted : 0,
        places: spots(0, tintedCells),
      },
      eaten: { areaPx, places: spots(1, goneCells) },
      specks: findSpecks(c, runs, width, height),
    };
  });
}

function findSpecks({ k, at, scratch, intsAt }: Call, runs: Int32Array, width: number, height: number): Spot[] {
  const most = Math.min(LARGEST_SPECK, Math.max(LEAST_SPECK, k.countVisible(SAMPLED) * SAMPLED * SPECK_SHARE));
  const [seen, piece] = [scratch(width * height), scratch((LARGEST_SPECK + 16) * 4)];
  const found: Spot[] = [];
  k.startSpecks();
  for (
    let count = k.nextSpeck(at(runs), runs.length, most, ALONE, seen, piece);
    count > 0;
    count = k.nextSpeck(at(runs), runs.length, most, ALONE, seen, piece)
  ) {
    const [first] = intsAt(piece, 1);
    found.push({ x: first % width, y: Math.floor(first / width), amount: count });
  }
  return found.sort((a, b) => b.amount - a.amount);
}
