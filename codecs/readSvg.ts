import svgpath from 'svgpath';
import { cropDrawing } from '../core/artwork/cropDrawing';
import {
  type Drawing,
  type Paint,
  type Shape,
  type Stop,
  boundsOfDrawing,
  placeDrawing,
} from '../core/artwork/drawing';
import { fromMatrix } from '../core/geometry/projective';
import { IDENTITY, type Matrix, multiply } from '../core/geometry/matrix';
import { setType } from '../core/type/setType';
import { typefaces } from '../core/type/typefaces';
import { type Path, PathBuilder, boundsOfPath, transformPath } from '../core/vector/path';
import { loadTypeface } from './loadTypeface';
import { type Clip, clipShape } from '../core/vector/polygons';
import { type Polyline, polylineOf, strokeOutline } from './svg/strokeOutline';
import { type Style, readRules, styleOf } from './svg/svgStyle';
import { type SvgElement, damagedSvg, everyElement, readSvgTree, refuseSvg } from './svg/svgTree';
import { readColour, readLength, readShare, readTransform } from './svg/svgValues';

/** A drawing's longer side in the pixels that recipes and screens count in. */
export const WORKING_LONG_PX = 2400;
const MOST_COORDINATES = 4_000_000;
const MOST_DRAWN = 50_000;
const MOST_USES = 16;
const MOST_STROKED = 300_000;
const MOST_MS = 8_000;
const FARTHEST = 1e7;
/** A stroke's outline is this near to a true one, working px. */
const STROKE_NEAR_PX = 0.05;

/** Elements whose children are drawn in their place. */
const GROUPS = new Set(['g', 'a', 'switch']);
/** Elements that draw nothing where they stand; scripts and the like are left out with them. */
const SILENT = new Set([
  ...['title', 'desc', 'metadata', 'defs', 'style', 'symbol', 'clipPath', 'linearGradient', 'radialGradient', 'stop'],
  ...['script', 'foreignObject', 'animate', 'animateTransform', 'animateMotion', 'set', 'marker', 'cursor', 'view'],
  ...['filter', 'mask', 'pattern', 'font', 'font-face', 'handler', 'iframe', 'audio', 'video'],
]);

/** What an SVG file holds. */
export interface SvgContent {
  /** Its longer side WORKING_LONG_PX. */
  readonly drawing: Drawing;
  /** Working pixels of one of the file's own units, and where its view begins in these. */
  readonly scale: number;
  readonly origin: { readonly x: number; readonly y: number };
  /** Plain words about what could not be kept. */
  readonly notes: readonly string[];
}

/**
 * The working drawing of an SVG file: fills, strokes as outlines, clips, gradients, groups and what they use.
 * @throws CoreError 'intake/…' naming the file, what is wrong and what to do
 */
export const readSvg = (bytes: Uint8Array, name: string): Drawing => openSvg(bytes, name).drawing;

/** The same with what could not be kept. */
export const openSvg = (bytes: Uint8Array, name: string): SvgContent =>
  new SvgReader(name).read(readSvgTree(bytes, name));

interface Place {
  readonly matrix: Matrix;
  readonly style: Style;
  readonly opacity: number;
  /** What alone is seen: clips one within the other. */
  readonly clips: readonly Clip[];
  readonly uses: number;
}

class SvgReader {
  private readonly shapes: Shape[] = [];
  private readonly notes = new Set<string>();
  private readonly byId = new Map<string, SvgElement>();
  private rules: ReturnType<typeof readRules> = [];
  private coordinates = 0;
  private drawn = 0;
  private readonly began = Date.now();
  /** Places of lines that were outlined as strokes. */
  private stroked = 0;
  /** Working pixels of a unit of the file, for how finely strokes are outlined. */
  private scale = 1;

  constructor(private readonly name: string) {}

  private refuse = (what: string): never => refuseSvg(this.name, what);
  private damaged = (what: string): never => damagedSvg(this.name, what);

  read(root: SvgElement): SvgContent {
    for (const element of everyElement(root)) {
      if (element.attributes.id !== undefined && !this.byId.has(element.attributes.id))
        this.byId.set(element.attributes.id, element);
    }
    this.rules = readRules([...everyElement(root)].filter((e) => e.tag === 'style').map((e) => e.text));
    const view = this.readView(root.attributes);
    const long = WORKING_LONG_PX / Math.max(view.width, view.height);
    this.scale = Math.abs(long - 1) < 1e-6 ? 1 : long;
    const { scale } = this;
    const top: Place = { matrix: IDENTITY, style: { fill: '#000000' }, opacity: 1, clips: [], uses: 0 };
    const own = this.enter(root, top);
    if (own) for (const child of root.children) this.draw(child, own);
    if (this.shapes.length === 0)
      return this.refuse(this.notes.size > 0 ? [...this.notes][0] : 'it holds no filled shape');
    const placed = placeDrawing(
      { widthPx: view.width, heightPx: view.height, shapes: this.shapes },
      [scale, 0, 0, scale, -view.x * scale, -view.y * scale],
      view.width * scale,
      view.height * scale,
    );
    const page = { width: placed.widthPx, height: placed.heightPx };
    const drawing = reachesBeyond(placed) ? cropDrawing(placed, fromMatrix(IDENTITY), page) : placed;
    if (drawing.shapes.length === 0) return this.refuse('nothing of it lies in its view');
    return { drawing, scale, origin: { x: view.x, y: view.y }, notes: [...this.notes] };
  }

  /** Where an element's inside is drawn; null where nothing of it is. */
  private enter(element: SvgElement, above: Place): Place | null {
    const { attributes } = element;
    const style = styleOf(element, above.style, this.rules);
    if (style.display === 'none') return null;
    for (const [key, what] of [
      ['mask', 'masks'],
      ['filter', 'filters'],
    ]) {
      if (style[key] !== undefined && style[key] !== 'none' && style[key] !== '') this.refuse(`it has ${what}`);
    }
    let { matrix } = above;
    if (attributes.transform) {
      const own = readTransform(attributes.transform);
      if (!own) return this.damaged(`a transform "${attributes.transform.slice(0, 40)}"`);
      matrix = multiply(matrix, own);
    }
    const opacity = above.opacity * readShare(style.opacity);
    if (opacity === 0) return null;
    const clip = style['clip-path'];
    let { clips } = above;
    if (clip && clip !== 'none') {
      const own = this.readClip(clip, matrix, above.uses);
      if (own === null) return null;
      clips = [...clips, own];
    }
    return { matrix, style, opacity, clips, uses: above.uses };
  }

  private draw(element: SvgElement, above: Place): void {
    const { tag, attributes } = element;
    if (SILENT.has(tag) || tag.includes(':')) return;
    if (++this.drawn > MOST_DRAWN) this.refuse(`it draws more than ${MOST_DRAWN} elements`);
    if (Date.now() - this.began > MOST_MS) this.refuse('it takes too long to read');
    const own = this.enter(element, above);
    if (!own) return;
    if (GROUPS.has(tag)) for (const child of element.children) this.draw(child, own);
    else if (tag === 'svg') this.drawNested(element, own);
    else if (tag === 'use') this.drawUsed(element, own);
    else if (tag === 'text') this.drawText(element, own);
    else if (tag === 'image') this.notes.add('it holds a picture, which was left out');
    else if (own.style.visibility !== 'hidden') {
      const d = tag === 'path' ? (attributes.d ?? '') : this.outlineOf(tag, attributes);
      if (d.trim() !== '') this.addPath(this.readPath(d), attributes.id, own);
    }
  }

  private drawNested(element: SvgElement, place: Place): void {
    const { attributes: a } = element;
    const [x, y] = [this.length(a.x, 0), this.length(a.y, 0)];
    let matrix = multiply(place.matrix, [1, 0, 0, 1, x, y]);
    const box = a.viewBox?.trim().split(/[\s,]+/).map(Number); // prettier-ignore
    const [width, height] = [this.length(a.width, 0), this.length(a.height, 0)];
    if (box?.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0 && width > 0 && height > 0) {
      const s = Math.min(width / box[2], height / box[3]);
      const [ox, oy] = [(width - box[2] * s) / 2, (height - box[3] * s) / 2];
      matrix = multiply(matrix, [s, 0, 0, s, ox - box[0] * s, oy - box[1] * s]);
    }
    for (const child of element.children) this.draw(child, { ...place, matrix });
  }

  private drawUsed(element: SvgElement, place: Place): void {
    const { attributes: a } = element;
    const href = a.href ?? a['xlink:href'] ?? '';
    if (!href.startsWith('#')) return void this.notes.add('it refers to another file, which was left out');
    const target = this.byId.get(href.slice(1));
    if (!target || place.uses >= MOST_USES) return;
    const matrix = multiply(place.matrix, [1, 0, 0, 1, this.length(a.x, 0), this.length(a.y, 0)]);
    const inside = { ...place, matrix, uses: place.uses + 1 };
    if (target.tag === 'symbol' || target.tag === 'svg') {
      const sized = { ...target, attributes: { ...target.attributes, ...pick(a, 'width', 'height') } };
      this.drawNested(sized, inside);
    } else this.draw(target, inside);
  }

  private drawText(element: SvgElement, { matrix, style, opacity, clips, uses }: Place): void {
    const letters = [...everyElement(element)]
      .map((e) => e.text)
      .join('')
      .replace(/\s+/g, ' ')
      .trim();
    if (letters === '') return;
    const family = (style['font-family'] ?? '').toLowerCase();
    const face = typefaces.find((t) => family.includes(t.title.toLowerCase()));
    if (!face) return void this.notes.add('it holds text whose typeface is not at hand, which was left out');
    const sizePx = readLength(style['font-size'] ?? '16', 16) ?? 16;
    try {
      const path = setType([letters], loadTypeface(face.file), { sizePx, spacing: 0, lineHeight: 1.2, align: 'left' });
      const box = boundsOfPath(path);
      const anchor = style['text-anchor'] === 'middle' ? 0.5 : style['text-anchor'] === 'end' ? 1 : 0;
      const x = this.length(element.attributes.x, 0) - anchor * (box ? box.x + box.width : 0);
      const at = multiply(matrix, [1, 0, 0, 1, x, this.length(element.attributes.y, 0)]);
      this.addFill(transformPath(path, at), element.attributes.id, { matrix: at, style, opacity, clips, uses });
    } catch {
      this.notes.add('it holds letters that its typeface does not have, which were left out');
    }
  }

  private addPath({ path, lines }: ReadPath, id: string | undefined, place: Place): void {
    this.addFill(transformPath(path, place.matrix), id, place);
    const { style } = place;
    if (!style.stroke || style.stroke === 'none') return;
    const width = readLength(style['stroke-width'] ?? '1', null) ?? 1;
    const paint = this.readPaint(style.stroke, place);
    if (!paint || !(width > 0)) return;
    const [a, b, c, d] = place.matrix;
    const grown = Math.sqrt(Math.abs(a * d - b * c)) || 1;
    const near = STROKE_NEAR_PX / (this.scale * grown);
    const dashes = /^none$|^$/.test(style['stroke-dasharray'] ?? '') ? [] : this.lengths(style['stroke-dasharray']);
    const stroked = lines(near);
    this.stroked += stroked.reduce((sum, l) => sum + l.points.length, 0);
    if (this.stroked > MOST_STROKED) this.refuse('its strokes have too many points');
    const outline = strokeOutline(
      stroked,
      {
        width,
        cap: style['stroke-linecap'] ?? 'butt',
        join: style['stroke-linejoin'] ?? 'miter',
        miterLimit: Number(style['stroke-miterlimit'] ?? 4) || 4,
        dashes,
        dashOffset: readLength(style['stroke-dashoffset'] ?? '0', null) ?? 0,
      },
      near,
    );
    this.add({
      id: id ? `${id}-stroke` : `shape-${this.shapes.length + 1}`,
      ...clipShape({ path: transformPath(outline, place.matrix), rule: 'nonzero' }, place.clips, this.scale),
      paint: paint.paint,
      opacity: place.opacity * readShare(style['stroke-opacity']) * paint.alpha,
    });
  }

  private addFill(path: Path, id: string | undefined, place: Place): void {
    const { style, clips } = place;
    if (style.fill === 'none' || path.verbs === '') return;
    const paint = this.readPaint(style.fill ?? '#000000', place, boundsOfPath(path));
    if (!paint) return;
    const rule = style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
    this.add({
      id: id ?? `shape-${this.shapes.length + 1}`,
      ...clipShape({ path, rule }, clips, this.scale),
      paint: paint.paint,
      opacity: place.opacity * readShare(style['fill-opacity']) * paint.alpha,
    });
  }

  private add(shape: Shape): void {
    if (shape.path.verbs !== '' && shape.opacity > 0) this.shapes.push(shape);
  }

  private readClip(text: string, matrix: Matrix, uses: number): Clip | null {
    const target = this.byId.get(refOf(text) ?? '');
    if (!target || target.tag !== 'clipPath') return this.refuse(`a shape is clipped by "${text.slice(0, 40)}"`);
    if (target.attributes.clipPathUnits === 'objectBoundingBox') this.refuse('it has clips measured by a shape');
    const inner = new SvgReader(this.name);
    Object.assign(inner, { byId: this.byId, rules: this.rules, scale: this.scale });
    const own = target.attributes.transform ? readTransform(target.attributes.transform) : IDENTITY;
    if (!own) return this.damaged(`a transform "${target.attributes.transform?.slice(0, 40)}"`);
    const place: Place = {
      matrix: multiply(matrix, own),
      style: { fill: '#000000' },
      opacity: 1,
      clips: [],
      uses: uses + 1,
    };
    if (uses >= MOST_USES) return null;
    for (const child of target.children) inner.draw(child, place);
    const paths = inner.shapes.map((s) => s.path);
    if (paths.length === 0) return null;
    return {
      path: { verbs: paths.map((p) => p.verbs).join(''), coords: paths.flatMap((p) => p.coords) },
      rule: target.children[0]?.attributes['clip-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
    };
  }

  private outlineOf(tag: string, a: Record<string, string>): string {
    const n = (key: string, start = 0) => this.length(a[key], start);
    if (tag === 'rect') {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      if (!(w > 0 && h > 0)) return '';
      const rx = Math.min(n('rx', n('ry')), w / 2);
      const ry = Math.min(n('ry', n('rx')), h / 2);
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}Z`;
      return (
        `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ${y + ry}V${y + h - ry}` +
        `A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}` +
        `A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`
      );
    }
    if (tag === 'circle' || tag === 'ellipse') {
      const [rx, ry] = tag === 'circle' ? [n('r'), n('r')] : [n('rx'), n('ry')];
      if (!(rx > 0 && ry > 0)) return '';
      const [cx, cy] = [n('cx'), n('cy')];
      return `M${cx + rx} ${cy}A${rx} ${ry} 0 1 1 ${cx - rx} ${cy}A${rx} ${ry} 0 1 1 ${cx + rx} ${cy}Z`;
    }
    if (tag === 'line') return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    if (tag === 'polygon' || tag === 'polyline') return a.points ? `M${a.points}${tag === 'polygon' ? 'Z' : ''}` : '';
    this.notes.add(`it holds a ${tag.slice(0, 40)} element, which was left out`);
    return '';
  }

  private length(text: string | undefined, start: number): number {
    if (text === undefined) return start;
    const v = readLength(text, null) ?? parseFloat(text);
    if (!Number.isFinite(v) || Math.abs(v) > FARTHEST) this.damaged(`"${text.slice(0, 40)}" is no length`);
    return v;
  }

  private lengths(text: string | undefined): number[] {
    return (text ?? '')
      .trim()
      .split(/[\s,]+/)
      .map((t) => readLength(t, null) ?? 0);
  }

  private readView(a: Readonly<Record<string, string>>): { x: number; y: number; width: number; height: number } {
    const box = a.viewBox
      ?.trim()
      .split(/[\s,]+/)
      .map(Number);
    if (box && (box.length !== 4 || !box.every((v) => Number.isFinite(v) && Math.abs(v) < FARTHEST)))
      this.damaged(`its view is "${a.viewBox.slice(0, 60)}"`);
    const [x, y, width, height] = box ?? [0, 0, this.length(a.width, 0), this.length(a.height, 0)];
    if (!(width > 0 && height > 0)) this.refuse('it does not say how large it is');
    if (Math.max(width / height, height / width) > 1000)
      this.refuse('it is more than a thousand times as long as wide');
    return { x, y, width, height };
  }

  private readPath(d: string): ReadPath {
    // Arcs become curves, everything absolute.
    const parsed = svgpath(d).abs().unshort().unarc();
    const err = (parsed as unknown as { err?: string }).err;
    if (err) this.damaged(err);
    const out = new PathBuilder();
    // Where each line begins among the path's commands, and whether it is closed: strokes ask for it.
    const rings: { path: PathBuilder; isClosed: boolean }[] = [];
    let [x, y, startX, startY] = [0, 0, 0, 0];
    parsed.iterate((segment) => {
      const [verb, ...n] = segment as unknown as [string, ...number[]];
      if (!n.every((v) => Number.isFinite(v) && Math.abs(v) < FARTHEST)) this.damaged('a path reaches too far');
      if ((this.coordinates += n.length) > MOST_COORDINATES) this.refuse('its paths have too many points');
      const [tx, ty] = verb === 'H' ? [n[0], y] : verb === 'V' ? [x, n[0]] : n.slice(-2);
      if (verb === 'Z') {
        out.close();
        if (rings.length > 0) rings[rings.length - 1].isClosed = true;
        [x, y] = [startX, startY];
        return;
      }
      if (verb === 'M' || rings.length === 0 || rings[rings.length - 1].isClosed) {
        const [mx, my] = verb === 'M' ? [tx, ty] : [x, y];
        out.moveTo(mx, my);
        rings.push({ path: new PathBuilder().moveTo(mx, my), isClosed: false });
        [startX, startY] = [mx, my];
      }
      const both = [out, rings[rings.length - 1].path];
      if (verb === 'C') for (const p of both) p.curveTo(n[0], n[1], n[2], n[3], tx, ty);
      else if (verb === 'Q') for (const p of both) p.quadTo(n[0], n[1], tx, ty);
      else if (verb !== 'M') for (const p of both) p.lineTo(tx, ty);
      [x, y] = [tx, ty];
    });
    return {
      path: out.done(),
      lines: (near) => rings.map((ring) => polylineOf(ring.path.done(), ring.isClosed, near)),
    };
  }

  private readPaint(
    text: string,
    { matrix, style }: Place,
    box: { x: number; y: number; width: number; height: number } | null = null,
  ): { paint: Paint; alpha: number } | null {
    const ref = refOf(text);
    if (ref === null) {
      const word = text === 'currentColor' || text === 'currentcolor' ? (style.color ?? '#000000') : text;
      if (word === 'none') return null;
      const found = readColour(word);
      if (!found) return this.refuse(`it has a colour "${text.slice(0, 40)}"`);
      return { paint: { kind: 'colour', hex: found.hex }, alpha: found.alpha };
    }
    const target = this.byId.get(ref);
    if (!target || !/Gradient$/.test(target.tag))
      return this.refuse(`a shape is filled with "${ref.slice(0, 40)}", which is no gradient`);
    return this.readGradient(target, matrix, box);
  }

  private readGradient(
    element: SvgElement,
    matrix: Matrix,
    box: { x: number; y: number; width: number; height: number } | null,
  ): { paint: Paint; alpha: number } | null {
    // What a gradient does not say it takes from the one that it refers to.
    const chain: SvgElement[] = [element];
    for (let k = 0; k < MOST_USES; k++) {
      const { attributes } = chain[chain.length - 1];
      const next = this.byId.get((attributes.href ?? attributes['xlink:href'] ?? '').replace(/^#/, ''));
      if (!next || chain.includes(next)) break;
      chain.push(next);
    }
    const said = (key: string) => chain.find((e) => e.attributes[key] !== undefined)?.attributes[key];
    const stopsOf = chain.find((e) => e.children.some((c) => c.tag === 'stop'));
    const read = (stopsOf?.children ?? []).filter((c) => c.tag === 'stop').map((stop) => this.readStop(stop));
    if (read.length === 0) return null;
    const stops = read.map((s): Stop => ({ at: s.at, hex: s.hex }));
    const alpha = read.reduce((sum, s) => sum + s.alpha, 0) / read.length;
    if (read.some((s) => s.alpha !== read[0].alpha))
      this.notes.add('it has a gradient that fades, which was made evenly see-through');
    if (stops.length === 1) return { paint: { kind: 'colour', hex: stops[0].hex }, alpha };
    const isByShape = said('gradientUnits') !== 'userSpaceOnUse';
    const units: Matrix = isByShape ? (box ? [box.width, 0, 0, box.height, box.x, box.y] : IDENTITY) : matrix;
    const own = readTransform(said('gradientTransform') ?? '');
    if (!own) return this.damaged('a transform of a gradient');
    const n = (key: string, start: number) => {
      const text = said(key);
      return text === undefined ? start : (readLength(text, 1) ?? start);
    };
    const paint: Paint =
      element.tag === 'linearGradient'
        ? { kind: 'linear', geometry: { x1: n('x1', 0), y1: n('y1', 0), x2: n('x2', 1), y2: n('y2', 0) }, stops }
        : { kind: 'radial', geometry: { cx: n('cx', 0.5), cy: n('cy', 0.5), r: n('r', 0.5) }, stops };
    const shape = { id: '', path: { verbs: '', coords: [] }, rule: 'nonzero' as const, paint, opacity: 1 };
    const placed = placeDrawing({ widthPx: 1, heightPx: 1, shapes: [shape] }, multiply(units, own), 1, 1);
    return { paint: placed.shapes[0].paint, alpha };
  }

  private readStop(element: SvgElement): Stop & { alpha: number } {
    const style = styleOf(element, {}, this.rules);
    const colour = readColour(style['stop-color'] ?? '#000000');
    if (!colour) return this.refuse(`it has a colour "${style['stop-color']?.slice(0, 40)}"`);
    return {
      at: readShare(element.attributes.offset ?? '0'),
      hex: colour.hex,
      alpha: colour.alpha * readShare(style['stop-opacity']),
    };
  }
}

interface ReadPath {
  readonly path: Path;
  /** Its lines as they are stroked. */
  readonly lines: (near: number) => Polyline[];
}

const refOf = (text: string): string | null => /^\s*url\(\s*["']?#([^)"']+)["']?\s*\)/.exec(text)?.[1] ?? null;

const pick = (a: Readonly<Record<string, string>>, ...keys: string[]): Record<string, string> =>
  Object.fromEntries(keys.flatMap((k) => (a[k] === undefined ? [] : [[k, a[k]]])));

/** A tight view is off its outlines by the digits that it was written with; so much is no part to cut away. */
const SLACK_PX = 0.01;

function reachesBeyond(drawing: Drawing): boolean {
  const b = boundsOfDrawing(drawing);
  if (!b) return false;
  const [right, bottom] = [b.x + b.width - drawing.widthPx, b.y + b.height - drawing.heightPx];
  return Math.max(-b.x, -b.y, right, bottom) > SLACK_PX;
}
