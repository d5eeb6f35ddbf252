import { existsSync, mkdirSync } from 'node:fs';
import { basename, join } from 'node:path';
import { checkFile } from '../codecs/decodePicture';
import { readBackSvg } from '../codecs/readBackSvg';
import { openSvg } from '../codecs/readSvg';
import { CoreError } from '../core/errors';
import { placeDrawing } from '../core/artwork/drawing';
import { clustersOfDrawing } from '../core/artwork/drawingClusters';
import { printSvg } from '../core/formats/svg';
import { type Command, readArguments, readInput, writeWhole } from './command';

const help = `tassel split FILE.svg --out FOLDER [options]

Takes a sheet of several pictures apart: each becomes an SVG of its own, 01.svg,
02.svg and so on, in rows from the top left. What lies behind all of them is left
out. Every file is read back and checked.

  --json   prints the files with their places on the sheet, in its own units`;

export const split: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, { out: { type: 'string' }, json: { type: 'boolean' } });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `split takes one file, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'split needs --out FOLDER.');
    const folder = values.out;
    const name = basename(positionals[0]);
    const bytes = readInput(positionals[0]);
    if (checkFile(bytes, name).id !== 'svg')
      throw new CoreError('intake/unsupported', `${name} is no SVG file; split takes drawings apart.`, { file: name });
    const { drawing, scale, origin } = openSvg(bytes, name);
    const clusters = clustersOfDrawing(drawing);
    const digits = Math.max(2, String(clusters.length).length);
    const files = clusters.map(({ members, box }, k) => {
      const shapes = members.map((m) => drawing.shapes[m]);
      // In the sheet's own units, the picture filling its page.
      const own = placeDrawing(
        { ...drawing, shapes },
        [1 / scale, 0, 0, 1 / scale, -box.x / scale, -box.y / scale],
        box.width / scale,
        box.height / scale,
      );
      const file = `${String(k + 1).padStart(digits, '0')}.svg`;
      const page = { widthPx: own.widthPx, heightPx: own.heightPx, ppi: null };
      const content = new TextEncoder().encode(printSvg(own, page));
      readBackSvg(content, file);
      const place = {
        x: round(box.x / scale + origin.x),
        y: round(box.y / scale + origin.y),
        width: round(own.widthPx),
        height: round(own.heightPx),
      };
      return { file, content, place };
    });
    // All are made before the first is written.
    if (!existsSync(folder)) mkdirSync(folder, { recursive: true });
    for (const { file, content } of files) writeWhole(join(folder, file), content);
    const report = files.map(({ file, place }) => ({ file, ...place }));
    if (values.json) console.log(JSON.stringify(report, null, 2));
    else for (const r of report) console.log(`${r.file}  ${r.width} × ${r.height} at ${r.x}, ${r.y}`);
    return 0;
  },
};

const round = (v: number) => Math.round(v * 1000) / 1000;
