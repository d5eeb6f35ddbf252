import type { PageFacts } from '../raster/measurePage';
import { COUNTS_PIXELS, withNumbers } from './fitSize';
import { type SizeLine, typedLine } from './recipe';
import type { ThinLine } from './thinLines';
import type { Extent, FileLayout } from '../sizes/size';

/** A risk of one file, found before it is written, with the line that would be without it. */
export interface FileFinding {
  readonly id: 'enlarged' | 'thin' | 'touches' | 'margins' | 'key-clash';
  readonly title: string;
  readonly detail: string;
  readonly mend: { readonly label: string; readonly line: SizeLine } | null;
}

interface Known {
  readonly line: SizeLine;
  readonly layout: FileLayout;
  /** The mark's visible extents at its own full size. */
  readonly mark: Extent;
  readonly thin: ThinLine | null;
  /** What the finished page shows; null before it is drawn. */
  readonly page: PageFacts | null;
  /** Share of the mark that goes with the key colour; null where there is none. */
  readonly keyClash: number | null;
}

/** A little enlargement is rounding. */
const LEAST_ENLARGEMENT = 1.01;
/** Purposes for which a mark at the very edge is cut or smeared by who shows it. */
const NEED_ROOM = ['videoOverlay', 'icon'];
/** A box of which more than this is empty beside the mark makes it look small in its place. */
const MOST_EMPTY = 0.3;
const LEAST_CLASH = 0.005;

export function fileFindings(known: Known): FileFinding[] {
  return [enlarged(known), thin(known), touches(known), margins(known), clashes(known)].flatMap((f) => f ?? []);
}

const sized = (line: SizeLine, change: object): SizeLine => ({
  ...line,
  size: { ...line.size, params: { ...line.size.params, ...change } },
});

function enlarged({ line, layout }: Known): FileFinding | null {
  if (layout.enlargement <= LEAST_ENLARGEMENT) return null;
  const times = layout.enlargement.toFixed(1);
  const ppi = layout.ppi === null ? '' : ` In print that is ${Math.round(layout.ppi / layout.enlargement)} ppi.`;
  const isOnScreen = layout.ppi === null;
  const mm = isOnScreen ? null : Math.floor((line.size.params.widthMm as number) / layout.enlargement);
  return {
    id: 'enlarged',
    title: `enlarged ${times} times`,
    detail: `The original is smaller, so edges turn soft.${ppi} Use a smaller size, a larger original, or outlines.`,
    mend: isOnScreen
      ? { label: 'As large as the original allows', line: { ...line, fitted: true as const } }
      : mm && mm >= 1
        ? { label: `${mm} mm wide`, line: sized(line, { widthMm: mm }) }
        : null,
  };
}

function thin({ line, thin: found }: Known): FileFinding | null {
  if (!found) return null;
  const width = found.width.toFixed(found.unit === 'pt' ? 2 : 1);
  const grown = scaled(line, found.times);
  return {
    id: 'thin',
    title: `thinnest line ${width} ${found.unit}`,
    detail: 'Lines so thin break up or fade. Use a larger size, or a variant with a rim.',
    mend: grown && { label: 'Large enough for it', line: grown },
  };
}

/** The same line so many times as large, rounded up; null where its size is not one number. */
function scaled(line: SizeLine, times: number): SizeLine | null {
  const isMeant = (name: string) => COUNTS_PIXELS.test(name) || name.endsWith('Mm');
  if (line.size.id === 'frame' || !Object.keys(line.size.params).some(isMeant)) return null;
  return { ...typedLine(line), size: withNumbers(line.size, isMeant, (v) => Math.ceil(v * times)) };
}

function touches({ line, page, layout }: Known): FileFinding | null {
  const e = page?.extents;
  if (!e || !NEED_ROOM.includes(line.purpose) || layout.width < 1) return null;
  const isAtEdge = e.x <= 0 || e.y <= 0 || e.x + e.width >= layout.width || e.y + e.height >= layout.height;
  if (!isAtEdge || !('paddingPct' in line.size.params)) return null;
  return {
    id: 'touches',
    title: 'touches the edge',
    detail: 'Where it is shown a mark at the very edge may be cut or smeared. A little clear space keeps it whole.',
    mend: { label: 'Clear space of 4 %', line: sized(line, { paddingPct: 4 }) },
  };
}

function margins({ line, layout }: Known): FileFinding | null {
  if (line.size.id !== 'box') return null;
  const pad = (Number(line.size.params.paddingPct ?? 0) / 100) * Math.max(layout.width, layout.height);
  const across = 1 - layout.mark.width / (layout.width - 2 * pad);
  const down = 1 - layout.mark.height / (layout.height - 2 * pad);
  const most = Math.max(across, down);
  if (most <= MOST_EMPTY) return null;
  const isAcross = across >= down;
  const side = Math.round((isAcross ? layout.mark.width : layout.mark.height) + 2 * pad);
  return {
    id: 'margins',
    title: `${Math.round(most * 100)} % empty`,
    detail:
      `The mark has another shape than this box, which is left empty ` +
      `${isAcross ? 'beside' : 'above and below'} it.`,
    mend: {
      label: isAcross ? `${side} px wide` : `${side} px high`,
      line: sized(line, isAcross ? { widthPx: side } : { heightPx: side }),
    },
  };
}

function clashes({ line, keyClash }: Known): FileFinding | null {
  if (keyClash === null || keyClash < LEAST_CLASH) return null;
  const other = line.purposeParams?.key === 'blue' ? 'green' : 'blue';
  return {
    id: 'key-clash',
    title: 'key colour clash',
    detail: `${Math.max(1, Math.round(keyClash * 100))} % of the mark is close to the key and would go with it.`,
    mend: { label: `Key in ${other}`, line: { ...line, purposeParams: { ...line.purposeParams, key: other } } },
  };
}
