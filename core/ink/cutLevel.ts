/** A pixel this close to the darkest within two pixels is the middle of its stroke. */
const MIDDLE_SHARE = 0.72;
/** No level lower than this many times the paper's noise: below it every level keeps grain. */
const OVER_NOISE = 2.5;

/** What each cut level would cost, on both sides. */
export interface LevelStudy {
  /** The levels looked at, coverage 0..1, rising. */
  readonly levels: readonly number[];
  /** Pieces at each level that are too small to be strokes. */
  readonly strayPieces: readonly number[];
  /** Share of the ink, 0..1, that each level would lose. */
  readonly inkLost: readonly number[];
  readonly steadyFrom: number;
  readonly steadyTo: number;
  /** Where to start: the middle of the steady range. */
  readonly start: number;
}

const STEPS = 48;
const FIRST = 0.03;
const LAST = 0.8;
/** Faint strokes hang on strong ones down to this share of the level. */
export const LOW_SHARE = 0.45;

/** The levels that are looked at: closer together where they are low. */
const levelAt = (k: number) => FIRST * (LAST / FIRST) ** (k / (STEPS - 1));

/**
 * For every level at once, how many stray pieces it leaves and how much ink it loses.
 * Pixels join in falling order into pieces that know their area and their peak (a component tree built with union and
 * find), so a level's pieces are read off when its lower threshold is reached.
 * @param values    coverage on a small grid
 * @param strayArea pieces with fewer pixels are stray
 * @param noise     deviation of bare paper, coverage
 * @see R. Tarjan, "Efficiency of a Good But Not Linear Set Union Algorithm", 1975
 */
export function studyLevel(
  values: Float32Array,
  width: number,
  height: number,
  strayArea: number,
  noise = 0,
): LevelStudy {
  const levels = Array.from({ length: STEPS }, (_, k) => levelAt(k));
  const lows = levels.map((t) => t * LOW_SHARE);
  const buckets: number[][] = levels.map(() => []);
  for (let i = 0; i < values.length; i++) {
    const k = lastBelow(lows, values[i]);
    if (k >= 0) buckets[k].push(i);
  }
  const parent = new Int32Array(values.length).fill(-1);
  const area = new Int32Array(values.length);
  const peak = new Float32Array(values.length);
  const find = (i: number): number => {
    let r = i;
    while (parent[r] !== r) r = parent[r];
    while (parent[i] !== r) [parent[i], i] = [r, parent[i]];
    return r;
  };
  const core = strokeCores(values, width, height);
  const cores = new Int32Array(values.length);
  const roots = new Set<number>();
  const stray: number[] = new Array<number>(STEPS).fill(0);
  const kept: number[] = new Array<number>(STEPS).fill(0);
  for (let k = STEPS - 1; k >= 0; k--) {
    for (const i of buckets[k]) {
      parent[i] = i;
      area[i] = 1;
      cores[i] = core[i];
      peak[i] = values[i];
      roots.add(i);
      const x = i % width;
      for (const n of [
        x > 0 ? i - 1 : -1,
        x < width - 1 ? i + 1 : -1,
        i - width,
        i + width,
        x > 0 ? i - width - 1 : -1,
        x < width - 1 ? i - width + 1 : -1,
        x > 0 ? i + width - 1 : -1,
        x < width - 1 ? i + width + 1 : -1,
      ]) {
        if (n < 0 || n >= width * height || parent[n] < 0) continue;
        const [a, b] = [find(i), find(n)];
        if (a === b) continue;
        const [into, from] = area[a] >= area[b] ? [a, b] : [b, a];
        parent[from] = into;
        area[into] += area[from];
        cores[into] += cores[from];
        if (peak[from] > peak[into]) peak[into] = peak[from];
        roots.delete(from);
      }
    }
    for (const r of roots) {
      if (peak[r] < levels[k]) continue;
      if (area[r] < strayArea) stray[k]++;
      else kept[k] += cores[r];
    }
  }
  return readStudy(levels, stray, kept, noise);
}

/**
 * The middles of strokes: what is nearly as strong as anything within two pixels. What a level takes from soft rims is
 * no loss.
 */
function strokeCores(values: Float32Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(values.length);
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2, i = y * width + 2; x < width - 2; x++, i++) {
      if (values[i] < FIRST * LOW_SHARE) continue;
      let most = 0;
      for (let n = i - 2 * width; n <= i + 2 * width; n += width)
        for (let k = n - 2; k <= n + 2; k++) if (values[k] > most) most = values[k];
      if (values[i] >= MIDDLE_SHARE * most) out[i] = 1;
    }
  }
  return out;
}

function lastBelow(lows: readonly number[], value: number): number {
  if (value < lows[0]) return -1;
  let k = 0;
  while (k + 1 < lows.length && lows[k + 1] <= value) k++;
  return k;
}

/** A level counts as costing nothing on one side below these. */
const FEW_STRAYS = 1;
const LITTLE_LOST = 0.03;
/** What ink there is, is read off at this level: lower ones count the paper's grain as ink. */
const REFERENCE = 0.13;
/** And no start is nearer than so many deviations to the paper's noise. */
const DEVIATIONS = 5;

function readStudy(
  levels: readonly number[],
  stray: readonly number[],
  kept: readonly number[],
  noise: number,
): LevelStudy {
  const at = (level: number) =>
    Math.max(
      0,
      levels.findIndex((t) => t >= level),
    );
  const least = at(Math.min(0.5, Math.max(REFERENCE, DEVIATIONS * noise)));
  const all = Math.max(1, kept[least]);
  const lost = kept.map((a) => Math.max(0, Math.min(1, 1 - a / all)));
  let to = least;
  while (to + 1 < STEPS && lost[to + 1] <= LITTLE_LOST) to++;
  const fewest = Math.min(...stray.slice(0, to + 1));
  let from = to;
  while (from > 0 && stray[from - 1] <= fewest + FEW_STRAYS && levels[from - 1] >= OVER_NOISE * noise) from--;
  const [low, high] = [levels[from], levels[to]];
  const start = Math.min(high, Math.max(levels[least], Math.sqrt(low * high)));
  return {
    levels,
    strayPieces: stray,
    inkLost: lost,
    steadyFrom: low,
    steadyTo: high,
    start: Math.round(start * 1000) / 1000,
  };
}
