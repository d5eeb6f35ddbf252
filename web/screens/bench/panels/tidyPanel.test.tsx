import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { initialRecipe } from '../../../../core/recipe/recipe';
import type { StageValues } from '../../../../core/stages';
import type { PieceFact, TidyFacts } from '../../../../core/stages/tidyFacts';
import { TidyPanel } from './TidyPanel';

const box = { x: 0, y: 0, width: 10, height: 10 };
const piece = (p: Partial<PieceFact>): PieceFact => ({
  x: 1,
  y: 1,
  areaPx: 9000,
  peak: 1,
  colour: '#1f5a45',
  box,
  distancePx: 0,
  dropped: false,
  treatment: 'kept',
  ...p,
});
const facts: TidyFacts = {
  pieces: [
    piece({}),
    piece({ x: 90, areaPx: 12.34, distancePx: 80, dropped: true }),
    piece({ x: 60, areaPx: 3, peak: 0.05, distancePx: 40 }),
  ],
  pieceCount: 3,
  droppedCount: 1,
  gone: [],
  areas: [3, 12.34, 9000],
  proposal: { limit: 19, from: 12.34, to: 9000 },
  extents: { before: box, after: box },
  framed: { before: box, after: box },
  stretchers: [],
};
const values = (change: Partial<StageValues['tidy']> = {}) => ({ ...initialRecipe().stages.tidy, ...change });

const on = {
  tool: vi.fn(),
  commit: vi.fn(),
  flip: vi.fn(),
  goTo: vi.fn(),
  brush: vi.fn(),
  preview: vi.fn(),
  pick: vi.fn(),
};
beforeEach(() => Object.values(on).forEach((f) => f.mockReset()));
const show = (
  own = values(),
  tool: string | null = null,
  given: TidyFacts | null = facts,
  picked: string | null = null,
  isWhole = true,
) =>
  render(
    <TidyPanel
      values={own}
      facts={given}
      isWhole={isWhole}
      tool={tool}
      brush={{ size: 24, hardness: 1 }}
      onBrush={on.brush}
      onTool={on.tool}
      onGoTo={on.goTo}
      onFlip={on.flip}
      palette={[]}
      picked={picked}
      onPick={on.pick}
      onPreview={on.preview}
      onCommit={on.commit}
    />,
  );

describe('the panel of Tidy', () => {
  it('says which numbers are near only, and that a list is not whole', () => {
    show(values({ specksBelow: 10 }), null, { ...facts, pieceCount: 700 }, null, false);
    expect(screen.getByText('about 699 pieces, 1 dropped')).toBeTruthy();
    expect(screen.getByText('about 1 piece goes')).toBeTruthy();
    expect(screen.getByText('the 3 largest of 700, the smallest first')).toBeTruthy();
  });
  it('counts pieces, and says which of them hardly anybody sees and how far off they are', async () => {
    show();
    expect(screen.getByText('2 pieces, 1 dropped')).toBeTruthy();
    expect(screen.getByText(/hardly visible · 40 px off/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Drop' }));
    await userEvent.click(screen.getByRole('button', { name: 'Keep' }));
    expect(on.flip.mock.calls.map(([p]) => (p as PieceFact).x)).toEqual([60, 90]);
    await userEvent.click(screen.getByRole('button', { name: '12 px' }));
    expect(on.goTo).toHaveBeenCalledWith(facts.pieces[1]);
  });
  it('says that pieces are being counted until they are', () => {
    show(values(), null, null);
    expect(screen.getByText(/Pieces are being counted/)).toBeTruthy();
    expect(screen.queryByText('Pieces')).toBeNull();
  });
  it('takes up a tool by a press and puts it away by another; a brush shows its size', async () => {
    const { rerender } = show();
    expect(screen.queryByLabelText('Brush size')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Rub out' }));
    expect(on.tool).toHaveBeenLastCalledWith('rub');
    rerender(<div />);
    show(values(), 'rub');
    expect(screen.getByRole('button', { name: 'Rub out' }).getAttribute('aria-pressed')).toBe('true');
    await userEvent.clear(screen.getByLabelText('Brush size'));
    await userEvent.type(screen.getByLabelText('Brush size'), '60');
    expect(on.brush).toHaveBeenLastCalledWith({ size: 60 });
    await userEvent.click(screen.getByRole('button', { name: 'Rub out' }));
    expect(on.tool).toHaveBeenLastCalledWith(null);
  });
  it('takes all that was done by hand back in one step, and keeps the size limit', async () => {
    const edits = [{ kind: 'cover' as const, points: [0, 0, 9, 0, 9, 9], colour: null }];
    show(values({ edits, drop: [{ x: 1, y: 2 }], specksBelow: 19 }));
    expect(screen.getByText('1 stroke or outline, 1 piece chosen')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take all back' }));
    expect(on.commit.mock.calls[0][0]).toEqual(values({ specksBelow: 19 }));
    await userEvent.click(screen.getByRole('button', { name: 'Keep all' }));
    expect(on.commit.mock.calls[1][0]).toMatchObject({ specksBelow: 0, edits });
  });
  it('picks the pieces of one colour together, and drops or keeps them in one step', async () => {
    const red = [90, 60].map((x) => piece({ x, areaPx: x, colour: '#a03020', dropped: x === 60 }));
    const given = { ...facts, pieces: [piece({}), ...red] };
    const { unmount } = show(values(), null, given);
    await userEvent.click(screen.getByRole('button', { name: '2 pieces of #A03020' }));
    expect(on.pick).toHaveBeenCalledWith('#a03020');
    unmount();
    show(values({ drop: [{ x: 60, y: 1 }], specksBelow: 70 }), null, given, '#a03020');
    await userEvent.click(screen.getByRole('button', { name: 'Drop 1 piece' }));
    expect((on.commit.mock.calls[0][0] as StageValues['tidy']).drop).toEqual([
      { x: 90, y: 1 },
      { x: 60, y: 1 },
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Keep 1 piece' }));
    expect(on.commit.mock.calls[1][0]).toMatchObject({ drop: [], keep: [{ x: 60, y: 1 }] });
  });
  it('offers no colours where all pieces have one', () => {
    show();
    expect(screen.queryByText('By colour')).toBeNull();
  });
});
