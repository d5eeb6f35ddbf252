import { createHash } from 'node:crypto';
import { drawingOfPath } from '../core/artwork/drawingOfPath';
import type { Drawing } from '../core/artwork/drawing';
import { renderDrawing } from '../core/artwork/renderDrawing';
import { captureFromChoice } from '../core/capture/captureLooks';
import { simulateCapture } from '../core/capture/simulateCapture';
import { CoreError } from '../core/errors';
import { printSvg } from '../core/formats/svg';
import { turning } from '../core/geometry/projective';
import { setType } from '../core/type/setType';
import { findTypeface } from '../core/type/typefaces';
import { drawnPath } from '../core/vector/drawnPath';
import type { Path } from '../core/vector/path';
import type { MakeMarkRequest } from '../contract/requests';
import { encodeCaptureJpeg } from '../codecs/encodeCapture';
import { loadTypeface } from '../codecs/loadTypeface';
import { WORKING_LONG_PX } from '../codecs/readSvg';
import type { Known } from './prepareMark';

/**
 * The paths of what was drawn or typed. @throws CoreError 'draw/empty', 'type/empty', 'type/no-glyph' or
 * 'registry/unknown'
 */
function pathOf({ drawn, typed }: MakeMarkRequest): Path {
  if (drawn) return drawnPath(drawn.strokes as [number, number, number][][], drawn.pen);
  if (!typed) throw new CoreError('request/invalid', 'The request holds neither a drawing nor type.');
  const { typeface, lines, ...options } = typed;
  return setType(lines, loadTypeface(findTypeface(typeface).file), options);
}

/** A file as if somebody had dropped it, with what is known of it. */
export interface MadeArtwork {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly known: Known;
}

/**
 * What was drawn or typed as a file to take in: an SVG of its paths, or a photograph of it, taken in like any.
 * @throws CoreError as the drawing or type says
 */
export async function makeArtwork(request: MakeMarkRequest): Promise<MadeArtwork> {
  const drawing = drawingOfPath(pathOf(request), request.colour, WORKING_LONG_PX);
  if (request.capture) {
    const name = `${request.name} photographed.jpg`;
    return { bytes: await takePhotograph(request, drawing), name, known: { kind: request.kind } };
  }
  const what = request.drawn ? 'Drawn on the pad' : 'Typed';
  const svg = printSvg(drawing, { ...drawing, ppi: null });
  return {
    bytes: new TextEncoder().encode(svg),
    name: `${request.name}.svg`,
    known: {
      markName: request.name,
      kind: request.kind ?? (request.drawn ? 'signature' : 'logo'),
      sentence: `${what}: kept as paths, transparent from the start.`,
    },
  };
}

/** How much of the sheet's width and height the writing takes up. */
const SHEET = { height: 0.7, inkWidth: 0.62, inkHeight: 0.4 };

async function takePhotograph(request: MakeMarkRequest, drawing: Drawing): Promise<Uint8Array> {
  const choice = request.capture as NonNullable<MakeMarkRequest['capture']>;
  const width = choice.widthPx;
  const height = Math.round(width * SHEET.height);
  const { widthPx, heightPx } = drawing;
  const scale = Math.min((width * SHEET.inkWidth) / widthPx, (height * SHEET.inkHeight) / heightPx);
  const [cos, sin] = [turning(choice.tiltDeg)[0] * scale, turning(choice.tiltDeg)[3] * scale];
  const [cx, cy] = [widthPx / 2, heightPx / 2];
  const [x, y] = [width / 2 - cx * cos + cy * sin, height / 2 - cx * sin - cy * cos];
  const ink = renderDrawing(drawing, { width, height, matrix: [cos, sin, -sin, cos, x, y] });
  const hash = createHash('sha256')
    .update(JSON.stringify([drawing, choice]))
    .digest();
  const { picture } = simulateCapture(ink, captureFromChoice(choice, hash.readUInt32LE(0) % SEEDS));
  return encodeCaptureJpeg(picture, choice.quality, choice.hasPlace);
}

const SEEDS = 100_000;
