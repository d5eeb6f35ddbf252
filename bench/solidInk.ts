import { plainInk, cutOutInk } from '../core/ink/cutOutInk';
import { sheets } from './captures';
const from = Number(process.argv[2] ?? 1),
  n = Number(process.argv[3] ?? 15);
let tot = 0,
  ok = 0;
const rows: number[] = [];
for (const set of ['plain', 'hard'] as const)
  for (let s = from; s < from + n; s++) {
    const c = await sheets[set](s);
    let r;
    try {
      r = cutOutInk(c.picture, { ...plainInk, pen: 'solid' } as never);
    } catch {
      console.log(set, s, 'fail');
      continue;
    }
    const out: Uint8Array = (r as any).solid ?? r.picture.data.filter((_: number, i: number) => i % 4 === 3);
    let t = 0,
      k = 0,
      outer = 0,
      edge = 0,
      edgeN = 0;
    for (let i = 0; i < out.length; i++) {
      const a = c.truth.data[i * 4 + 3];
      if (a >= 250) {
        t++;
        if (out[i] >= 250) k++;
      }
      if (a === 0 && out[i] > 16) outer++;
      if (a > 5 && a < 250) {
        edgeN++;
        edge += Math.abs(out[i] - a) / 255;
      }
    }
    tot += t;
    ok += k;
    if (t > 50) rows.push(k / t);
    console.log(
      set,
      s,
      c.id,
      c.how,
      'inside',
      t,
      (k / Math.max(1, t)).toFixed(3),
      'outside',
      outer,
      'edge',
      (edge / edgeN).toFixed(3),
    );
  }
rows.sort((a, b) => a - b);
console.log(
  'all',
  ok / tot,
  'mean',
  rows.reduce((a, b) => a + b, 0) / rows.length,
  'worst',
  rows
    .slice(0, 6)
    .map((v) => v.toFixed(3))
    .join(' '),
);
