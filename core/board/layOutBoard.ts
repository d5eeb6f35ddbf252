import type { RectPx } from '../params';

/** A variant on a ground, by their numbers, and where it stands on the board. */
export interface BoardCell {
  readonly variant: number;
  readonly ground: number;
  readonly box: RectPx;
  /** Baseline of the words under it. */
  readonly words: { readonly x: number; readonly y: number; readonly width: number };
}

export interface BoardLayout {
  readonly width: number;
  readonly height: number;
  readonly cells: readonly BoardCell[];
  /** Height of the words. */
  readonly textPx: number;
}

/** A cell of this size is enough for a mark to be judged; a board of many has smaller ones. */
const CELL = { width: 480, height: 320 };
const MOST_WIDTH = 4000;
const GAP = 28;
const MARGIN = 48;
const TEXT_PX = 19;
const WORDS_PX = 44;

/**
 * Variants by grounds, each variant with all its grounds in a row, or in as many columns as are asked for.
 * @param columns  cells side by side; the number of grounds without it
 */
export function layOutBoard(variants: number, grounds: number, columns: number | null): BoardLayout {
  const across = Math.max(1, Math.min(columns ?? grounds, variants * grounds));
  const wanted = MARGIN * 2 + across * CELL.width + (across - 1) * GAP;
  const scale = Math.min(1, MOST_WIDTH / wanted);
  const [w, h] = [Math.round(CELL.width * scale), Math.round(CELL.height * scale)];
  const cells = Array.from({ length: variants * grounds }, (_, k): BoardCell => {
    const x = MARGIN + (k % across) * (w + GAP);
    const y = MARGIN + Math.floor(k / across) * (h + WORDS_PX + GAP);
    return {
      variant: Math.floor(k / grounds),
      ground: k % grounds,
      box: { x, y, width: w, height: h },
      words: { x, y: y + h + WORDS_PX * WORDS_SHARE, width: w },
    };
  });
  const rows = Math.ceil((variants * grounds) / across);
  return {
    width: MARGIN * 2 + across * w + (across - 1) * GAP,
    height: MARGIN * 2 + rows * (h + WORDS_PX) + (rows - 1) * GAP,
    cells,
    textPx: TEXT_PX,
  };
}
const WORDS_SHARE = 0.68;

/** So much of a cell is left clear round a mark. */
const CLEAR_SHARE = 0.16;

/** Where a mark of some shape stands in a cell: as large as it can be, in the middle. */
export function markInCell(box: RectPx, mark: { width: number; height: number }): RectPx {
  const clear = CLEAR_SHARE * Math.min(box.width, box.height);
  const scale = Math.min((box.width - 2 * clear) / mark.width, (box.height - 2 * clear) / mark.height);
  const [width, height] = [mark.width * scale, mark.height * scale];
  return { x: box.x + (box.width - width) / 2, y: box.y + (box.height - height) / 2, width, height };
}
