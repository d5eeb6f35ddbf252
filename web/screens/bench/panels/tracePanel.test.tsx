import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { initialRecipe } from '../../../../core/recipe/recipe';
import type { StageValues } from '../../../../core/stages';
import { type TraceFacts, noTrace } from '../../../../core/stages/traceFacts';
import { nodesOf } from '../picture/OutlineNodes';
import { TracePanel } from './TracePanel';

const values = (change: Partial<StageValues['trace']> = {}) => ({ ...initialRecipe().stages.trace, ...change });
const colour = (found: string, areaPx: number) => ({ found, hex: found, areaPx, nodes: 4, isDropped: false });
const piece = (found: string, areaPx: number, beside: string | null) => ({
  found,
  hex: found,
  isDropped: false,
  isChanged: false,
  areaPx,
  x: areaPx,
  y: 5,
  box: { x: 0, y: 0, width: 9, height: 9 },
  beside,
  d: 'M0 0L9 0L9 9Z',
});
const facts: TraceFacts = {
  ...noTrace('traced'),
  colours: [colour('#1f5a45', 900), colour('#b5322b', 100)],
  nodes: 42,
  pieces: [piece('#1f5a45', 900, null), piece('#b5322b', 88, '#1f5a45'), piece('#b5322b', 12, '#1f5a45')],
  pieceCount: 3,
  meanDeviationPx: 0.031,
  largestDeviationPx: 0.4,
  thinnestPx: 2.5,
  medianStrokePx: 12.34,
};
const on = { commit: vi.fn(), nodes: vi.fn(), pick: vi.fn(), pieces: vi.fn() };
beforeEach(() => Object.values(on).forEach((f) => f.mockReset()));
const show = (
  own: StageValues['trace'],
  given: TraceFacts | null,
  more: { picked?: ReadonlySet<number>; share?: number; palette?: { name: string; hex: string }[] } = {},
) =>
  render(
    <TracePanel
      values={own}
      facts={given}
      palette={more.palette ?? []}
      showsNodes={false}
      picked={more.picked ?? null}
      share={more.share ?? null}
      onNodes={on.nodes}
      onPick={on.pick}
      onPieces={on.pieces}
      onCommit={on.commit}
    />,
  );

describe('the panel of Trace', () => {
  it('begins with pixels, and traces at a press', async () => {
    show(values(), noTrace('off'));
    expect(screen.queryByText('Tolerance')).toBeNull();
    await userEvent.click(screen.getByText('All files'));
    expect(on.commit.mock.calls[0]).toEqual([values({ use: 'all' }), 'Trace the master']);
    await userEvent.click(screen.getByText('SVG and PDF'));
    expect(on.commit.mock.calls[1]).toEqual([values({ use: 'vector' }), 'Outlines for vector files']);
  });
  it('says that it is being traced until it is', () => {
    show(values({ use: 'all' }), noTrace('off'));
    expect(screen.getByText(/being traced/)).toBeTruthy();
  });
  it('lists colours by what they cover, and leaves one out and takes it back in', async () => {
    const { unmount } = show(values({ use: 'all' }), facts);
    expect(screen.getByText('42 nodes')).toBeTruthy();
    expect(screen.getByText('90 %')).toBeTruthy();
    expect(screen.getByText(/0.03 px in the mean, 0.4 px at most/)).toBeTruthy();
    await userEvent.click(screen.getAllByRole('button', { name: 'Leave out' })[1]);
    const left = { changes: [{ from: '#b5322b', to: null }] };
    expect(on.commit.mock.calls[0][0]).toMatchObject(left);
    unmount();
    const dropped = { ...facts, colours: [facts.colours[0], { ...facts.colours[1], isDropped: true }] };
    show(values({ use: 'all', ...left }), dropped);
    await userEvent.click(screen.getByRole('button', { name: 'Keep' }));
    expect((on.commit.mock.calls[1][0] as StageValues['trace']).changes).toEqual([]);
  });
  it('has nothing to do for what came as paths', () => {
    show(values(), noTrace('paths'));
    expect(screen.getByText('paths already')).toBeTruthy();
    expect(screen.queryByText('All files')).toBeNull();
  });
  it('tells how far a long trace is, and takes it back', async () => {
    show(values({ use: 'all' }), facts, { share: 0.42 });
    expect(screen.getByText('Tracing at full size, 42 %')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(on.commit.mock.calls[0][0]).toMatchObject({ use: 'off' });
  });
  it('leaves picked pieces out, covers each with what lies round it, and picks all of their colour', async () => {
    show(values({ use: 'all' }), facts, { picked: new Set([1]) });
    expect(screen.getByText('1 of 3 picked')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'All of this colour' }));
    expect(on.pick).toHaveBeenCalledWith(new Set([1, 2]));
    const pieces = within(screen.getByRole('region', { name: 'Pieces of the outlines' }));
    await userEvent.click(pieces.getByRole('button', { name: 'Leave out' }));
    await userEvent.click(pieces.getByRole('button', { name: 'Cover with the colour beside' }));
    const [[some, out, why], [, beside]] = on.pieces.mock.calls;
    expect(some).toEqual([facts.pieces[1]]);
    expect([out(facts.pieces[1]), why]).toEqual([null, 'Leave out a piece']);
    expect(beside(facts.pieces[1])).toBe('#1f5a45');
  });
  it('lists pieces, the smallest first, to be picked by key', async () => {
    show(values({ use: 'all' }), facts);
    await userEvent.click(screen.getByRole('button', { name: 'List' }));
    const boxes = screen.getAllByRole('checkbox');
    expect(boxes).toHaveLength(3);
    await userEvent.click(boxes[0]);
    expect(on.pick).toHaveBeenCalledWith(new Set([2]));
  });
  it('snaps colours that are nearly those of the palette, and no others', async () => {
    const palette = [
      { name: 'Canal green', hex: '#205C46' },
      { name: 'Fog blue', hex: '#7fa6bf' },
    ];
    show(values({ use: 'all' }), facts, { palette });
    await userEvent.click(screen.getByRole('button', { name: 'Snap a colour to the palette' }));
    expect(on.commit.mock.calls[0][0]).toMatchObject({ changes: [{ from: '#1f5a45', to: '#205c46' }] });
  });
  it('shows outlines and nodes when asked', async () => {
    show(values({ use: 'all' }), facts);
    await userEvent.click(screen.getByRole('button', { name: 'Outlines and nodes' }));
    expect(on.nodes).toHaveBeenCalledWith(true);
  });
});

it('nodes are where lines and curves end', () => {
  expect(nodesOf('M1 2L3 4C5 6 7 8 9 10Z')).toEqual([
    [1, 2],
    [3, 4],
    [9, 10],
  ]);
});
