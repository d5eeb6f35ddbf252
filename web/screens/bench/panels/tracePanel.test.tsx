import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { initialRecipe } from '../../../../core/recipe/recipe';
import type { StageValues } from '../../../../core/stages';
import { type TraceFacts, noTrace } from '../../../../core/stages/traceFacts';
import { nodesOf } from '../picture/OutlineNodes';
import { TracePanel } from './TracePanel';

const values = (change: Partial<StageValues['trace']> = {}) => ({ ...initialRecipe().stages.trace, ...change });
const colour = (found: string, areaPx: number) => ({ found, hex: found, areaPx, nodes: 4, isDropped: false });
const facts: TraceFacts = {
  ...noTrace('traced'),
  colours: [colour('#1f5a45', 900), colour('#b5322b', 100)],
  nodes: 42,
  pieces: 3,
  meanDeviationPx: 0.031,
  largestDeviationPx: 0.4,
  thinnestPx: 2.5,
  medianStrokePx: 12.34,
};
const on = { commit: vi.fn(), nodes: vi.fn() };
beforeEach(() => Object.values(on).forEach((f) => f.mockReset()));
const show = (own: StageValues['trace'], given: TraceFacts | null) =>
  render(
    <TracePanel values={own} facts={given} palette={[]} showsNodes={false} onNodes={on.nodes} onCommit={on.commit} />,
  );

describe('the panel of Trace', () => {
  it('begins with pixels, and traces at a press', async () => {
    show(values(), noTrace('off'));
    expect(screen.queryByText('Tolerance')).toBeNull();
    await userEvent.click(screen.getByText('Outlines'));
    expect(on.commit.mock.calls[0]).toEqual([values({ use: 'all' }), 'Trace the master']);
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
    expect(screen.queryByText('Outlines')).toBeNull();
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
