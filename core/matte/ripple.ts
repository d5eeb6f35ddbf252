/** A pixel this far from the ground is part of something drawn, not of a ripple. */
const STRONG = 72;
/** Compression works in blocks of eight pixels, so its ripples reach about that far from an edge. */
const REACH = 7;
/** No more is ever forgiven: pale parts of a mark begin here. */
const MOST_FORGIVEN = 24;

/**
 * How strongly compression ripples beside edges: the 85th percentile of the ground distance three to six pixels past
 * the end of a strong run, sampled along rows; 0 for a clean picture.
 */
export function sampleRipple(distance: Uint8Array, width: number, height: number): number {
  const count = new Uint32Array(48);
  let total = 0;
  const step = Math.max(1, Math.floor(height / 400));
  for (let y = 0; y < height; y += step) {
    const row = y * width;
    for (let x = 1; x < width - REACH; x++) {
      if (distance[row + x] >= STRONG || distance[row + x - 1] < STRONG) continue;
      // Only where the row really comes down to ground: a pale part beside the edge stays up.
      if (distance[row + x + 6] > 30) continue;
      for (let k = 3; k <= 6; k++) {
        const d = distance[row + x + k];
        if (d >= 48) break;
        count[d]++;
        total++;
      }
    }
  }
  if (total < 40) return 0;
  let sum = 0;
  for (let d = 0; d < 48; d++) if ((sum += count[d]) >= total * 0.85) return d;
  return 48;
}

/**
 * The ground distance with the ripples beside strong edges forgiven: near them a pixel must stand out by that much
 * more to count. A clean picture comes back as it is.
 * Ripples are what quantised block transforms leave beside edges (ITU-T T.81, annex A, gives the transform).
 */
export function forgiveRipple(distance: Uint8Array, width: number, height: number, ripple: number): Uint8Array {
  if (ripple < 3) return distance;
  const forgiven = Math.min(MOST_FORGIVEN, Math.round(ripple * 1.4));
  const near = nearStrong(distance, width, height);
  const out = new Uint8Array(distance.length);
  for (let i = 0; i < out.length; i++) {
    const d = distance[i];
    out[i] = near[i] && d < STRONG ? (d > forgiven ? d - forgiven : 0) : d;
  }
  return out;
}

// A square dilation, rows then columns, each as a countdown from the last strong pixel seen.
function nearStrong(distance: Uint8Array, width: number, height: number): Uint8Array {
  const near = new Uint8Array(distance.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let left = 0;
    for (let i = row; i < row + width; i++) {
      if (distance[i] >= STRONG) left = REACH + 1;
      if (left > 0) {
        near[i] = 1;
        left--;
      }
    }
    left = 0;
    for (let i = row + width - 1; i >= row; i--) {
      if (distance[i] >= STRONG) left = REACH + 1;
      if (left > 0) {
        near[i] = 1;
        left--;
      }
    }
  }
  const left = new Uint8Array(width);
  const spread = (from: number, to: number, step: number) => {
    left.fill(0);
    for (let y = from; y !== to; y += step) {
      for (let x = 0, i = y * width; x < width; x++, i++) {
        if (near[i] === 1) left[x] = REACH + 1;
        if (left[x] > 0) {
          if (near[i] === 0) near[i] = 2; // found by columns: starts no countdown of its own
          left[x]--;
        }
      }
    }
  };
  spread(0, height, 1);
  spread(height - 1, -1, -1);
  return near;
}
