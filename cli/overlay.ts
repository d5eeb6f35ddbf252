import { extname } from 'node:path';
import { layItems } from '../codecs/photos/placeOnPhoto';
import { photoOfRaster } from '../codecs/photos/photo';
import { encodePng } from '../codecs/encodePng';
import {
  ENDING_OF,
  OVERLAY_FORMS,
  type OverlayForm,
  USUAL_RATE,
  keyOf,
  writeOverlay,
} from '../codecs/video/overlayClip';
import { CoreError } from '../core/errors';
import { keyClash } from '../core/findings/keyClash';
import { readPlacement, frameOf } from '../core/placements/readPlacement';
import { bleedColours } from '../core/raster/bleedColours';
import { LEAST_LINE_PX, masterStrokes } from '../core/recipe/thinLines';
import type { LaidVariant } from '../core/placements/placeItem';
import { artworkOfRaster } from '../core/artwork/artwork';
import { createRaster } from '../core/raster/raster';
import { type Command, readArguments, readNumber, readWhole, writeWhole } from './command';
import { marksToLay } from './marksToLay';

const MOST_SECONDS = 600;
/** A smaller share of the mark's pixels close to the key is the edge of something else. */
const CLASH = 0.01;

const help = `tassel overlay MASTER --frame WxH --seconds S --form FORM --out FILE [options]

Writes a mark on a whole clear frame for a video program: a picture, a clip with
transparency, or a clip on a flat colour that the program takes out.

  --form png          a picture with alpha
         prores4444   MOV, ProRes 4444 with alpha
         webm         WebM, VP9 with alpha
         key-green, key-blue
                      MP4, H.264 on flat green or blue
  --variant V         black, reversed, colour (at first) or FILE.json
  --at, --inset, --size, --opacity
                      as place takes them
  --rate N            frames per second, ${USUAL_RATE} at first
  --shrunk-to PX      how wide the clip will be shown: lines too thin for that are told
  --fade-in S, --fade-out S
                      seconds over which the mark comes and goes`;

export const overlay: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      frame: { type: 'string' },
      seconds: { type: 'string' },
      form: { type: 'string' },
      out: { type: 'string' },
      variant: { type: 'string' },
      at: { type: 'string' },
      inset: { type: 'string' },
      size: { type: 'string' },
      opacity: { type: 'string' },
      rate: { type: 'string' },
      'shrunk-to': { type: 'string' },
      'fade-in': { type: 'string' },
      'fade-out': { type: 'string' },
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', 'overlay takes one mark.');
    if (!values.frame || !values.form || !values.out)
      throw new CoreError('cli/usage', 'overlay needs --frame, --form and --out.');
    const form = readForm(values.form, values.out);
    const frame = frameOf(values.frame);
    if (!frame) throw new CoreError('cli/usage', `--frame is such as 1920x1080, got "${values.frame}".`);
    if (form !== 'png' && !values.seconds) throw new CoreError('cli/usage', 'A clip needs --seconds.');
    if (form !== 'png' && (frame.width % 2 || frame.height % 2))
      throw new CoreError('cli/usage', `A clip has even sides, got ${values.frame}.`);
    const { items } = readPlacement({
      items: [
        {
          mark: positionals[0],
          variant: values.variant ?? 'colour',
          ...(values.at ? { at: values.at } : {}),
          ...(values.inset ? { inset: values.inset } : {}),
          ...(values.size ? { size: values.size } : {}),
          opacity: values.opacity === undefined ? 1 : readNumber(values.opacity, 'opacity', 0, 1),
        },
      ],
    });
    const page = photoOfRaster(createRaster(frame.width, frame.height), true);
    const laid = await marksToLay(items);
    const [placed] = await layItems(page, laid);
    if (values['shrunk-to']) {
      const shown = readWhole(values['shrunk-to'], 'shrunk-to', 8, 16_384);
      const thinnest = thinnestOf(laid[0].choices[0], (placed.box.width * shown) / frame.width);
      if (thinnest < LEAST_LINE_PX)
        console.error(
          `tassel: ${shown} px wide the thinnest line of the mark is ${thinnest.toFixed(1)} px and breaks up. ` +
            'Make the mark larger, or its lines heavier.',
        );
    }
    const raster = { width: page.width, height: page.height, data: Uint8Array.from(page.data) };
    if (form === 'png') {
      writeWhole(values.out, await encodePng(bleedColours(raster)));
      return 0;
    }
    const key = keyOf(form);
    const clash = key ? keyClash(raster, key) : 0;
    if (clash > CLASH)
      console.error(
        `tassel: ${Math.ceil(clash * 100)} % of the mark is close to the key colour and would be taken out with it. ` +
          `Use ${form === 'key-green' ? 'key-blue' : 'key-green'}, or another variant.`,
      );
    const second = (text: string | undefined, name: string) =>
      text === undefined ? {} : { [name]: readNumber(text, 'fade-in and --fade-out', 0, MOST_SECONDS) };
    await writeOverlay(
      raster,
      {
        form,
        seconds: readNumber(values.seconds as string, 'seconds', 0.04, MOST_SECONDS),
        rate: values.rate === undefined ? USUAL_RATE : readNumber(values.rate, 'rate', 1, 120),
        ...second(values['fade-in'], 'fadeIn'),
        ...second(values['fade-out'], 'fadeOut'),
      },
      values.out,
    );
    return 0;
  },
};

/** Lines are measured on a mark so wide, where none is only a pixel. */
const MEASURED_PX = 800;

/** The thinnest line of a mark where it lies, px. */
function thinnestOf(mark: LaidVariant, width: number): number {
  const found = masterStrokes(artworkOfRaster(mark.atWidth(MEASURED_PX).raster));
  return found ? (found.thinnestPx * width) / MEASURED_PX : Infinity;
}

function readForm(text: string, out: string): OverlayForm {
  const form = OVERLAY_FORMS.find((f) => f === text);
  if (!form) throw new CoreError('cli/usage', `--form takes one of ${OVERLAY_FORMS.join(', ')}, got "${text}".`);
  if (extname(out).toLowerCase() !== `.${ENDING_OF[form]}`)
    throw new CoreError('cli/usage', `${form} is written as .${ENDING_OF[form]}, got "${out}".`);
  return form;
}
