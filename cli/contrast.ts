import { basename } from 'node:path';
import { decodePicture } from '../codecs/decodePicture';
import { type Rgb, rgbFromHex } from '../core/colour/hex';
import { markAtWidth } from '../core/contrast/placeMark';
import { type Standing, measureStanding, outlineMark } from '../core/contrast/standing';
import { extentsOf } from '../core/artwork/extentsOf';
import { CoreError } from '../core/errors';
import type { Raster } from '../core/raster/raster';
import { runStages } from '../core/recipe/runRecipe';
import { type Command, naming, readArguments, readInput } from './command';
import { openMaster } from './masterOf';

/** Without a place the mark stands in the middle of a photo, so much of its width. */
const USUAL_SHARE = 0.4;

const help = `tassel contrast MASTER --ground COLOUR|PHOTO … [options]

Measures how well a mark can be seen: on a colour such as #ffffff its WCAG contrast
ratio, on a photo the share of its edge that stands out. What counts is the finished
mark: the best of its edges that is closed round it, rims and plates included.

  --ground G …   colours and pictures' files
  --at X,Y,W     on a photo, where the mark's middle is and how wide it is, px;
                 in the middle and ${USUAL_SHARE * 100} % of the photo wide without it
  --json         prints per ground { ground, ratio, shareAbove3, worst: { x, y, ratio } }`;

export const contrast: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      ground: { type: 'string', multiple: true },
      at: { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length === 0) throw new CoreError('cli/usage', 'contrast takes a file.');
    if (!values.ground?.length) throw new CoreError('cli/usage', 'contrast needs at least one --ground.');
    const place = values.at === undefined ? null : readPlace(values.at);
    const grounds: { ground: string; value: Rgb | Raster }[] = [];
    // More words after the first ground are grounds too.
    for (const ground of [...values.ground, ...positionals.slice(1)])
      grounds.push({ ground, value: await readGround(ground) });
    const name = basename(positionals[0]);
    const { source, recipe, scale } = await openMaster(positionals[0]);
    const report = await naming(name, async () => {
      const { master } = runStages(source, recipe.stages, { pictureKey: name, pictureOnly: true });
      const own = extentsOf(master);
      return grounds.map(({ ground, value }) => {
        if (!('data' in value)) {
          const mark = markAtWidth(master, own?.width ?? 1);
          return { ground, ...rounded(measureStanding(outlineMark(mark), value, own ?? { x: 0, y: 0 }), scale) };
        }
        const width = place?.width ?? value.width * USUAL_SHARE;
        const mark = markAtWidth(master, width);
        const x = Math.round((place?.x ?? value.width / 2) - mark.width / 2);
        const y = Math.round((place?.y ?? value.height / 2) - mark.height / 2);
        return { ground, ...rounded(measureStanding(outlineMark(mark), value, { x, y })) };
      });
    });
    if (values.json) console.log(JSON.stringify(report, null, 2));
    else
      for (const { ground, ratio, shareAbove3, worst } of report)
        console.log(
          `${ground}: ${ratio.toFixed(1)} : 1, ${Math.round(shareAbove3 * 100)} % of the outline at 3 : 1 or more` +
            (worst ? `, worst ${worst.ratio.toFixed(1)} : 1 at ${worst.x}, ${worst.y}` : ''),
        );
    return 0;
  },
};

/** A colour, or a picture's pixels. @throws CoreError 'intake/…' or 'file/…' naming it */
export async function readGround(text: string): Promise<Rgb | Raster> {
  if (/^#[0-9a-f]{6}$/i.test(text)) return rgbFromHex(text);
  if (text.startsWith('#')) throw new CoreError('cli/usage', `A ground's colour is such as #1a2b3c, got "${text}".`);
  return (await decodePicture(readInput(text), basename(text))).raster;
}

function readPlace(text: string): { x: number; y: number; width: number } {
  const n = text.split(',').map(Number);
  if (n.length !== 3 || !n.every(Number.isFinite) || n[2] <= 0)
    throw new CoreError('cli/usage', `--at takes X,Y,W such as 800,400,300, got "${text}".`);
  return { x: n[0], y: n[1], width: n[2] };
}

/** @param scale  pixels per unit in which the place is told */
function rounded({ ratio, shareAbove3, worst }: Standing, scale = 1) {
  const round = (v: number, digits: number) => Math.round(v * 10 ** digits) / 10 ** digits;
  return {
    ratio: round(ratio, 2),
    shareAbove3: round(shareAbove3, 3),
    worst: worst && { x: Math.round(worst.x / scale), y: Math.round(worst.y / scale), ratio: round(worst.ratio, 2) },
  };
}
