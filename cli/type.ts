import { loadTypeface } from '../codecs/loadTypeface';
import { WORKING_LONG_PX } from '../codecs/readSvg';
import { artworkOfDrawing } from '../core/artwork/artwork';
import { drawingOfPath } from '../core/artwork/drawingOfPath';
import { CoreError } from '../core/errors';
import { setType } from '../core/type/setType';
import { typefaces } from '../core/type/typefaces';
import { type Command, readArguments } from './command';
import { readColour } from './settingOptions';
import { readSize, sizeHelp, sizeOptions } from './sizeOptions';
import { formatOf, outName, writeFile } from './writeFile';

const help = `tassel type "TEXT" --typeface NAME --out ${outName} [options]

Sets a line of text as a mark, as paths, exactly round its letters. The file is
read back and checked.

  --typeface NAME        ${typefaces.map((t) => t.id).join(', ')}
  --colour '#rrggbb'     of the letters (black)
${sizeHelp}`;

export const type: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      out: { type: 'string' },
      typeface: { type: 'string' },
      colour: { type: 'string' },
      ...sizeOptions,
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `type takes one text, got ${positionals.length}.`);
    if (typeof values.out !== 'string') throw new CoreError('cli/usage', 'type needs --out.');
    if (typeof values.typeface !== 'string') throw new CoreError('cli/usage', 'type needs --typeface.');
    const size = readSize(values);
    formatOf(values.out);
    const colour = typeof values.colour === 'string' ? readColour(values.colour, 'colour') : '#000000';
    const font = loadTypeface(typefaceNamed(values.typeface).file);
    const path = setType(positionals[0].split('\n'), font, SETTING);
    await writeFile(values.out, artworkOfDrawing(drawingOfPath(path, colour, WORKING_LONG_PX)), size);
    return 0;
  },
};

/** Large, so that nothing is lost where a font's own units are rounded. */
const SETTING = { sizePx: 1000, spacing: 0, lineHeight: 1.2, align: 'left' as const };

/** By id or title, whatever the case. */
function typefaceNamed(name: string): (typeof typefaces)[number] {
  const wanted = name.trim().toLowerCase();
  const found = typefaces.find((t) => t.id === wanted || t.title.toLowerCase() === wanted);
  if (found) return found;
  throw new CoreError(
    'cli/usage',
    `There is no typeface "${name}"; there are ${typefaces.map((t) => t.id).join(', ')}.`,
  );
}
