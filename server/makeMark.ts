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
import type { TakenIn } from '../contract/views';
import { encodeCaptureJpeg } from '../codecs/encodeCapture';
import { loadTypeface } from '../codecs/loadTypeface';
import { WORKING_LONG_PX } from '../codecs/readSvg';
import { type TakeInDeps, takeIn } from './takeIn';

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

/**
 * Makes a mark of what was drawn or typed: an SVG file of its paths is its original. Or a photograph of it, taken in
 * like any.
 */
export async function makeMark(deps: TakeInDeps, brandId: string, request: MakeMarkRequest): Promise<TakenIn> {
  const drawing = drawingOfPath(pathOf(request), request.colour, WORKING_LONG_PX);
  if (request.capture) return takePhotograph(deps, brandId, request, drawing);
  const what = request.drawn ? 'Drawn on the pad' : 'Typed';
  const svg = printSvg(drawing, { ...drawing, ppi: null });
  return takeIn(deps, brandId, new TextEncoder().encode(svg), `${request.name}.svg`, {
    markName: request.name,
    kind: request.kind ?? (request.drawn ? 'signature' : 'logo'),
    sentence: `${what}: kept as paths, transparent from the start.`,
  });
}

/** How much of the sheet's width and height the writing takes up. */
const SHEET = { height: 0.7, inkWidth: 0.62, inkHeight: 0.4 };

async function takePhotograph(
  deps: TakeInDeps,
  brandId: string,
  request: MakeMarkRequest,
  drawing: Drawing,
): Promise<TakenIn> {
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
  const bytes = await encodeCaptureJpeg(picture, choice.quality, choice.hasPlace);
  return takeIn(deps, brandId, bytes, `${request.name} photographed.jpg`, { kind: request.kind });
}

const SEEDS = 100_000;
