import { Resvg } from '@resvg/resvg-js';
import { readFileSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
const list = process.argv.slice(2);
const tiles = await Promise.all(
  list.map(async (f) =>
    sharp(
      new Resvg(readFileSync(f, 'utf8'), { fitTo: { mode: 'width', value: 560 }, background: '#cfe' }).render().asPng(),
    )
      .resize(560, 560, { fit: 'contain', background: '#888' })
      .png()
      .toBuffer(),
  ),
);
await sharp({
  create: {
    width: 560 * Math.min(2, list.length),
    height: 560 * Math.ceil(list.length / 2),
    channels: 3,
    background: '#888',
  },
})
  .composite(tiles.map((input, k) => ({ input, left: (k % 2) * 560, top: Math.floor(k / 2) * 560 })))
  .png()
  .toFile('/tmp/view.png');
