import { SaxesParser } from 'saxes';
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
import { CoreError } from '../core/errors';
import { fromMatrix } from '../core/geometry/projective';
import type { Matrix } from '../core/geometry/matrix';
import { type Path, PathBuilder, transformPath } from '../core/vector/path';

/** A drawing's longer side in the pixels that recipes and screens count in. */
export const WORKING_LONG_PX = 2400;
const MOST_SVG_BYTES = 10 * 1024 * 1024;
const MOST_ELEMENTS = 50_000;
const MOST_COORDINATES = 4_000_000;
const MOST_DEPTH = 64;
/** Elements that say something about a drawing and draw nothing. */
const SILENT = new Set(['title', 'desc', 'metadata', 'defs']);

interface Inherited {
  readonly matrix: Matrix;
  readonly fill: string;
  readonly rule: 'nonzero' | 'evenodd';
  readonly opacity: number;
  readonly stroke: string;
}

/**
 * The working drawing of an SVG file of filled shapes: what the program writes, and what is as plain.
 * @throws CoreError 'intake/…' naming the file, what is wrong and what to do
 */
export function readSvg(bytes: Uint8Array, name: string): Drawing {
  const reader = new SvgReader(name);
  if (bytes.length > MOST_SVG_BYTES) {
    return reader.refuse(`it has ${Math.ceil(bytes.length / 1048576)} MB; the most for an SVG file is 10 MB`);
  }
  return reader.read(decodeUtf8(bytes) ?? reader.damaged('its letters are not UTF-8'));
}

function decodeUtf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

class SvgReader {
  private readonly shapes: Shape[] = [];
  private readonly gradients = new Map<string, { paint: Exclude<Paint, { kind: 'colour' }> }>();
  private readonly stack: Inherited[] = [];
  private silentDepth = 0;
  private openGradient: {
    id: string;
    stops: Stop[];
    make: (stops: Stop[]) => Exclude<Paint, { kind: 'colour' }>;
  } | null = null;
  private view: { x: number; y: number; width: number; height: number } | null = null;
  private elements = 0;
  private coordinates = 0;

  constructor(private readonly name: string) {}

  refuse(what: string): never {
    throw new CoreError(
      'intake/unsupported',
      `${this.name} cannot be taken in as paths: ${what}. Export it as plain filled paths, or as PNG.`,
      {
        file: this.name,
      },
    );
  }

  damaged(what: string, cause?: unknown): never {
    throw new CoreError(
      'intake/damaged',
      `${this.name} is damaged: ${what}. Ask for the file again, or open and re-export it.`,
      { file: this.name },
      { cause },
    );
  }

  read(text: string): Drawing {
    const parser = new SaxesParser();
    parser.on('error', (cause) => this.damaged(cause.message.split('\n')[0], cause));
    parser.on('doctype', (doctype) => {
      if (doctype.includes('[')) this.refuse('it declares entities of its own');
    });
    parser.on('opentag', (tag) => this.open(tag.name.replace(/^svg:/, ''), tag.attributes as Record<string, string>));
    parser.on('closetag', (tag) => this.close(tag.name.replace(/^svg:/, '')));
    parser.write(text).close();
    if (!this.view) return this.refuse('it holds no svg element');
    if (this.shapes.length === 0) return this.refuse('it holds no filled shape');
    const { x, y, width, height } = this.view;
    const long = WORKING_LONG_PX / Math.max(width, height);
    const scale = Math.abs(long - 1) < 1e-6 ? 1 : long;
    const placed = placeDrawing(
      { widthPx: width, heightPx: height, shapes: this.shapes },
      [scale, 0, 0, scale, -x * scale, -y * scale],
      width * scale,
      height * scale,
    );
    const page = { width: placed.widthPx, height: placed.heightPx };
    return reachesBeyond(placed) ? cropDrawing(placed, fromMatrix([1, 0, 0, 1, 0, 0]), page) : placed;
  }

  private open(tag: string, a: Record<string, string>): void {
    if (++this.elements > MOST_ELEMENTS) this.refuse(`it has more than ${MOST_ELEMENTS} elements`);
    const above = this.stack[this.stack.length - 1] ?? ROOT;
    if (this.stack.length >= MOST_DEPTH) this.refuse(`its groups are nested more than ${MOST_DEPTH} deep`);
    const own = this.inherit(above, a);
    this.stack.push(own);
    if (tag === 'svg' && this.stack.length === 1) this.view = this.readView(a);
    else if (tag === 'linearGradient' || tag === 'radialGradient') this.openGradient = this.startGradient(tag, a);
    else if (tag === 'stop') this.openGradient?.stops.push(this.readStop(a));
    else if (SILENT.has(tag) || tag.includes(':')) this.silentDepth++;
    else if (this.silentDepth > 0) return;
    else if (tag === 'g') return;
    else this.draw(tag, a, own);
  }

  private close(tag: string): void {
    this.stack.pop();
    if (SILENT.has(tag) || (tag.includes(':') && this.silentDepth > 0)) this.silentDepth--;
    if ((tag === 'linearGradient' || tag === 'radialGradient') && this.openGradient) {
      const { id, stops, make } = this.openGradient;
      if (stops.length > 0) this.gradients.set(id, { paint: make(stops) });
      this.openGradient = null;
    }
  }

  private inherit(above: Inherited, a: Record<string, string>): Inherited {
    if (a.style !== undefined) this.refuse('it is styled by style sheets');
    for (const [key, what] of [
      ['clip-path', 'clips'],
      ['mask', 'masks'],
      ['filter', 'filters'],
    ]) {
      if (a[key] !== undefined && a[key] !== 'none') this.refuse(`it has ${what}`);
    }
    const opacity = above.opacity * this.share(a.opacity) * this.share(a['fill-opacity']);
    return {
      matrix: a.transform ? multiply(above.matrix, this.readTransform(a.transform)) : above.matrix,
      fill: a.fill ?? above.fill,
      rule: a['fill-rule'] === undefined ? above.rule : a['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
      opacity,
      stroke: a.stroke ?? above.stroke,
    };
  }

  private share(text: string | undefined): number {
    if (text === undefined) return 1;
    const v = text.endsWith('%') ? parseFloat(text) / 100 : Number(text);
    return Number.isFinite(v) ? Math.min(1, Math.max(0, v)) : 1;
  }

  private draw(tag: string, a: Record<string, string>, own: Inherited): void {
    const d = tag === 'path' ? (a.d ?? '') : this.outlineOf(tag, a);
    if (own.stroke !== 'none') this.refuse('it has strokes that are not outlined');
    if (own.fill === 'none' || own.opacity === 0 || d.trim() === '') return;
    const path = transformPath(this.readPath(d), own.matrix);
    if (path.verbs === '') return;
    const id = a.id ?? `shape-${this.shapes.length + 1}`;
    this.shapes.push({ id, path, rule: own.rule, paint: this.readPaint(own), opacity: own.opacity });
  }

  private outlineOf(tag: string, a: Record<string, string>): string {
    const n = (key: string, start = 0) => this.length(a[key], start);
    if (tag === 'rect') {
      if (a.rx !== undefined || a.ry !== undefined) {
        const rx = Math.min(n('rx', n('ry')), n('width') / 2);
        const ry = Math.min(n('ry', n('rx')), n('height') / 2);
        const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
        return (
          `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ` +
          `${y + ry}V${y + h - ry}A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ` +
          `${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`
        );
      }
      return `M${n('x')} ${n('y')}h${n('width')}v${n('height')}h${-n('width')}Z`;
    }
    if (tag === 'circle' || tag === 'ellipse') {
      const [rx, ry] = tag === 'circle' ? [n('r'), n('r')] : [n('rx'), n('ry')];
      const [cx, cy] = [n('cx'), n('cy')];
      return `M${cx - rx} ${cy}A${rx} ${ry} 0 1 1 ${cx + rx} ${cy}A${rx} ${ry} 0 1 1 ${cx - rx} ${cy}Z`;
    }
    if (tag === 'polygon' || tag === 'polyline') return a.points ? `M${a.points}Z` : '';
    return this.refuse(`it holds a ${tag} element`);
  }

  private length(text: string | undefined, start: number): number {
    if (text === undefined) return start;
    const v = parseFloat(text);
    if (!Number.isFinite(v) || Math.abs(v) > FARTHEST) this.damaged(`"${text.slice(0, 40)}" is no length`);
    return v;
  }

  private readView(a: Record<string, string>): { x: number; y: number; width: number; height: number } {
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

  private readPath(d: string): Path {
    // Arcs become curves, everything absolute.
    const parsed = svgpath(d).abs().unshort().unarc();
    const err = (parsed as unknown as { err?: string }).err;
    if (err) this.damaged(err);
    const out = new PathBuilder();
    let [x, y, startX, startY] = [0, 0, 0, 0];
    parsed.iterate((segment) => {
      const [verb, ...n] = segment as unknown as [string, ...number[]];
      if (!n.every((v) => Number.isFinite(v) && Math.abs(v) < FARTHEST)) this.damaged('a path reaches too far');
      if ((this.coordinates += n.length) > MOST_COORDINATES) this.refuse('its paths have too many points');
      const [tx, ty] = verb === 'H' ? [n[0], y] : verb === 'V' ? [x, n[0]] : n.slice(-2);
      if (verb === 'M') {
        out.moveTo(tx, ty);
        [startX, startY] = [tx, ty];
      } else if (verb === 'C') out.curveTo(n[0], n[1], n[2], n[3], tx, ty);
      else if (verb === 'Q') out.quadTo(n[0], n[1], tx, ty);
      else if (verb === 'Z') {
        out.close();
        [x, y] = [startX, startY];
        return;
      } else out.lineTo(tx, ty);
      [x, y] = [tx, ty];
    });
    return out.done();
  }

  private readPaint({ fill, matrix }: Inherited): Paint {
    const ref = /^url\(\s*["']?#([^)"']+)["']?\s*\)/.exec(fill);
    if (!ref) return { kind: 'colour', hex: this.colour(fill) };
    const found = this.gradients.get(ref[1]);
    if (!found) return this.refuse(`a shape is filled with "${ref[1]}", which is no gradient before it`);
    return placeDrawing(
      {
        widthPx: 1,
        heightPx: 1,
        shapes: [{ id: '', path: { verbs: '', coords: [] }, rule: 'nonzero', paint: found.paint, opacity: 1 }],
      },
      matrix,
      1,
      1,
    ).shapes[0].paint;
  }

  private startGradient(tag: string, a: Record<string, string>) {
    const id = a.id ?? '';
    const isOurs =
      a.gradientUnits === 'userSpaceOnUse' &&
      a.gradientTransform === undefined &&
      !('href' in a) &&
      !('xlink:href' in a);
    const n = (key: string) => this.length(a[key], 0);
    return {
      id,
      stops: [],
      make: (stops: Stop[]): Exclude<Paint, { kind: 'colour' }> => {
        if (!isOurs) return this.refuse('it has a gradient measured by its shape');
        return tag === 'linearGradient'
          ? { kind: 'linear', geometry: { x1: n('x1'), y1: n('y1'), x2: n('x2'), y2: n('y2') }, stops }
          : { kind: 'radial', geometry: { cx: n('cx'), cy: n('cy'), r: n('r') }, stops };
      },
    };
  }

  private readStop(a: Record<string, string>): Stop {
    return { at: this.share(a.offset), hex: this.colour(a['stop-color'] ?? '#000000') };
  }

  private colour(text: string): string {
    const word = text.trim().toLowerCase();
    if (/^#[0-9a-f]{6}$/.test(word)) return word;
    if (/^#[0-9a-f]{3}$/.test(word)) return `#${[...word.slice(1)].map((c) => c + c).join('')}`;
    const rgb = /^rgb\(\s*(\d{1,3})\s*[, ]\s*(\d{1,3})\s*[, ]\s*(\d{1,3})\s*\)$/.exec(word);
    if (rgb)
      return `#${rgb
        .slice(1)
        .map((v) => Math.min(255, Number(v)).toString(16).padStart(2, '0'))
        .join('')}`;
    const named = {
      black: '#000000',
      white: '#ffffff',
      red: '#ff0000',
      green: '#008000',
      blue: '#0000ff',
      gray: '#808080',
      grey: '#808080',
    }[word];
    return named ?? this.refuse(`it has a colour "${text.slice(0, 40)}"`);
  }

  private readTransform(text: string): Matrix {
    let matrix: Matrix = [1, 0, 0, 1, 0, 0];
    for (const [, kind, list] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
      const n = list
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      if (!n.every((v) => Number.isFinite(v) && Math.abs(v) < FARTHEST))
        this.damaged(`a transform "${text.slice(0, 40)}"`);
      matrix = multiply(matrix, this.oneTransform(kind, n));
    }
    return matrix;
  }

  private oneTransform(kind: string, n: readonly number[]): Matrix {
    if (kind === 'matrix' && n.length === 6) return n as unknown as Matrix;
    if (kind === 'translate') return [1, 0, 0, 1, n[0], n[1] ?? 0];
    if (kind === 'scale') return [n[0], 0, 0, n[1] ?? n[0], 0, 0];
    if (kind === 'rotate') {
      const [cos, sin] = [Math.cos((n[0] * Math.PI) / 180), Math.sin((n[0] * Math.PI) / 180)];
      const [cx, cy] = [n[1] ?? 0, n[2] ?? 0];
      return [cos, sin, -sin, cos, cx - cos * cx + sin * cy, cy - sin * cx - cos * cy];
    }
    return this.refuse(`it has a transform "${kind}"`);
  }
}

/** A tight view is off its outlines by the digits that it was written with; so much is no part to cut away. */
const SLACK_PX = 0.01;

function reachesBeyond(drawing: Drawing): boolean {
  const b = boundsOfDrawing(drawing);
  if (!b) return false;
  const [right, bottom] = [b.x + b.width - drawing.widthPx, b.y + b.height - drawing.heightPx];
  return Math.max(-b.x, -b.y, right, bottom) > SLACK_PX;
}

const ROOT: Inherited = { matrix: [1, 0, 0, 1, 0, 0], fill: '#000000', rule: 'nonzero', opacity: 1, stroke: 'none' };
const FARTHEST = 1e7;

/** First `inner`, then `outer`. */
const multiply = (o: Matrix, i: Matrix): Matrix => [
  o[0] * i[0] + o[2] * i[1],
  o[1] * i[0] + o[3] * i[1],
  o[0] * i[2] + o[2] * i[3],
  o[1] * i[2] + o[3] * i[3],
  o[0] * i[4] + o[2] * i[5] + o[4],
  o[1] * i[4] + o[3] * i[5] + o[5],
];
