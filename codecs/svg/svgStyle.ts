import type { SvgElement } from './svgTree';

/** What is drawn how: the properties that a drawing takes notice of, as the file says them. */
export type Style = Readonly<Record<string, string>>;

/** Properties that come down from a group to what is in it. */
const INHERITED = [
  'fill',
  'fill-rule',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-linecap',
  'stroke-linejoin',
  'stroke-miterlimit',
  'stroke-dasharray',
  'stroke-dashoffset',
  'stroke-opacity',
  'clip-rule',
  'visibility',
  'color',
  'font-family',
  'font-size',
  'text-anchor',
];
const OWN = ['opacity', 'display', 'clip-path', 'mask', 'filter', 'stop-color', 'stop-opacity'];
const KNOWN = new Set([...INHERITED, ...OWN]);

interface Rule {
  readonly matches: (element: SvgElement) => boolean;
  /** The more exact a selector, the more it counts; of equal ones the later. */
  readonly weight: number;
  readonly style: Style;
}

/**
 * Rules of style sheets in a file. Selectors of one element each are known: `*`, a name, `.class`, `#id` and these
 * joined, in lists; others are left out, as are at-rules.
 */
export function readRules(sheets: readonly string[]): Rule[] {
  const rules: Rule[] = [];
  for (const sheet of sheets) {
    const plain = sheet.replace(/\/\*[\s\S]*?\*\//g, '').replace(/@[^{;]*(;|\{[^{}]*(\{[^{}]*\}[^{}]*)*\})/g, '');
    for (const [, selectors, body] of plain.matchAll(/([^{}]+)\{([^{}]*)\}/g)) {
      const style = readDeclarations(body);
      for (const selector of selectors.split(',')) {
        const rule = readSelector(selector.trim());
        if (rule) rules.push({ ...rule, style });
      }
    }
  }
  return rules;
}

function readSelector(selector: string): Omit<Rule, 'style'> | null {
  const match = /^(\*|[\w-]+)?((?:[.#][\w-]+)*)$/.exec(selector);
  if (!match || selector === '') return null;
  const tag = match[1] && match[1] !== '*' ? match[1] : null;
  const parts = match[2].match(/[.#][\w-]+/g) ?? [];
  const classes = parts.filter((p) => p[0] === '.').map((p) => p.slice(1));
  const ids = parts.filter((p) => p[0] === '#').map((p) => p.slice(1));
  return {
    matches: ({ tag: own, attributes }) =>
      (tag === null || own === tag) &&
      ids.every((id) => attributes.id === id) &&
      classes.every((c) => (attributes.class ?? '').split(/\s+/).includes(c)),
    weight: ids.length * 10_000 + classes.length * 100 + (tag ? 1 : 0),
  };
}

function readDeclarations(text: string): Style {
  const style: Record<string, string> = {};
  for (const part of text.split(';')) {
    const at = part.indexOf(':');
    if (at < 0) continue;
    const key = part.slice(0, at).trim().toLowerCase();
    if (KNOWN.has(key))
      style[key] = part
        .slice(at + 1)
        .replace(/!\s*important/i, '')
        .trim();
  }
  return style;
}

/**
 * An element's style: what comes down to it, then its attributes, rules and own declarations, the later the
 * stronger.
 */
export function styleOf(element: SvgElement, above: Style, rules: readonly Rule[]): Style {
  const style: Record<string, string> = {};
  for (const key of INHERITED) if (above[key] !== undefined) style[key] = above[key];
  const { attributes } = element;
  for (const key of KNOWN) if (attributes[key] !== undefined) style[key] = attributes[key];
  const own = rules.filter((rule) => rule.matches(element)).sort((a, b) => a.weight - b.weight);
  for (const rule of own) Object.assign(style, rule.style);
  if (attributes.style !== undefined) Object.assign(style, readDeclarations(attributes.style));
  for (const key of Object.keys(style)) if (style[key] === 'inherit') style[key] = above[key] ?? '';
  return style;
}
