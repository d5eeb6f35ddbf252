import { createHash } from 'node:crypto';
import { captureFromChoice } from '../core/capture/captureLooks';
import { simulateCapture } from '../core/capture/simulateCapture';
import { turning } from '../core/geometry/projective';
import { setType } from '../core/type/setType';
import { typefaces } from '../core/type/typefaces';
import { drawnPath } from '../core/vector/drawnPath';
import { boundsOfPath, svgOfPath } from '../core/vector/pathData';
import type { MakeMarkRequest } from '../contract/requests';
import type { TakenIn } from '../contract/views';
import { CoreError } from '../core/errors';
import { encodeCaptureJpeg } from '../codecs/encodeCapture';
import { loadTypeface } from '../codecs/loadTypeface';
import { renderSvgFile } from '../codecs/renderSvg';
import { type TakeInDeps, keepPicture, takeIn } from './takeIn';

/** Width at which paths are rendered for the working picture. */
const WORKING_PX = 2400;
const TALLEST_PX = 6000;

/** The paths of what was drawn or typed. @throws CoreError 'draw/empty', 'type/empty' or 'type/no-glyph' */
function pathOf({ drawn, typed }: MakeMarkRequest): string {
  if (drawn) return drawnPath(drawn.strokes as [number, number, number][][], drawn.pen);
  if (!typed) throw new CoreError('request/invalid', 'The request holds neither a drawing nor type.');
  const face = typefaces.find((t) => t.id === typed.typeface);
  if (!face)
    throw new CoreError(
      'request/invalid',
      `There is no typeface "${typed.typeface}"; there are ${typefaces.map((t) => t.id).join(', ')}.`,
    );
  return setType(typed.lines, loadTypeface(face.file), {
    sizePx: typed.sizePx,
    spacing: typed.spacing,
    lineHeight: typed.lineHeight,
    align: typed.align,
  });
}

/** Makes a mark of what was drawn or typed: an SVG file of its paths is its original. Or a photograph of it, taken in like any. */
export async function makeMark(deps: TakeInDeps, brandId: string, request: MakeMarkRequest): Promise<TakenIn> {
  const d = pathOf(request);
  if (request.capture) return takePhotograph(deps, brandId, request, d);
  const file = svgOfPath(d, request.colour);
  if (!file) throw new CoreError('draw/empty', 'What was drawn leaves no trace.');
  const width = Math.max(1, Math.min(WORKING_PX, Math.floor((TALLEST_PX * file.width) / file.height)));
  const raster = renderSvgFile(file.svg, width, Math.max(1, Math.round((width * file.height) / file.width)));
  const what = request.drawn ? 'Drawn on the pad' : 'Typed';
  return keepPicture(deps, brandId, new TextEncoder().encode(file.svg), {
    kind: { title: 'SVG', mediaType: 'image/svg+xml' },
    raster,
    notes: [],
    name: `${request.name}.svg`,
    markName: request.name,
    found: { way: 'vector', sentence: `${what}: kept as paths, transparent from the start.` },
    isSignature: request.drawn !== undefined,
  });
}

async function takePhotograph(
  deps: TakeInDeps,
  brandId: string,
  request: MakeMarkRequest,
  d: string,
): Promise<TakenIn> {
  const choice = request.capture as NonNullable<MakeMarkRequest['capture']>;
  const width = choice.widthPx;
  const height = Math.round(width * 0.7);
  const box = boundsOfPath(d);
  if (!box) throw new CoreError('draw/empty', 'What was drawn leaves no trace.');
  const scale = Math.min((width * 0.62) / Math.max(1, box.width), (height * 0.4) / Math.max(1, box.height));
  const [cos, sin] = [turning(choice.tiltDeg)[0] * scale, turning(choice.tiltDeg)[3] * scale];
  const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
  const move = `matrix(${cos} ${sin} ${-sin} ${cos} ${width / 2 - cx * cos + cy * sin} ${height / 2 - cx * sin - cy * cos})`;
  const ink = renderSvgFile(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><path transform="${move}" d="${d}" fill="${request.colour}"/></svg>`,
    width,
    height,
  );
  const seed = createHash('sha256').update(d).update(JSON.stringify(choice)).digest().readUInt32LE(0) % 100_000;
  const { picture } = simulateCapture(ink, captureFromChoice(choice, seed));
  const bytes = await encodeCaptureJpeg(picture, choice.quality, choice.hasPlace);
  return takeIn(deps, brandId, bytes, `${request.name} photographed.jpg`);
}
