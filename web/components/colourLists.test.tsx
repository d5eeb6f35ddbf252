import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { GradientsContext, PairsControl, StopsControl } from './ColourLists';

const stops = [
  { at: 0, colour: '#000000' },
  { at: 0.4, colour: '#b5322b' },
  { at: 1, colour: '#ffffff' },
];

describe('the colours of a gradient', () => {
  const show = () => {
    const onCommit = vi.fn();
    render(<StopsControl label="Colours" value={stops} palette={[]} onCommit={onCommit} />);
    return onCommit;
  };
  it('are moved by the arrow keys, and stay in order', () => {
    const onCommit = show();
    const second = screen.getByRole('slider', { name: 'Stop 2, #B5322B' });
    fireEvent.keyDown(second, { key: 'ArrowRight' });
    expect(onCommit).toHaveBeenCalledWith([stops[0], { at: 0.42, colour: '#b5322b' }, stops[2]]);
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Stop 1, #000000' }), { key: 'ArrowLeft' });
    expect(onCommit.mock.calls[1][0][0].at).toBe(0);
  });
  it('grow, shrink and are turned round', async () => {
    const onCommit = show();
    await userEvent.click(screen.getByRole('button', { name: 'Another colour' }));
    expect(onCommit.mock.calls[0][0].map((s: { at: number }) => s.at)).toEqual([0, 0.4, 0.7, 1]);
    await userEvent.click(screen.getByRole('button', { name: 'Take stop 2 out' }));
    expect(onCommit.mock.calls[1][0]).toEqual([stops[0], stops[2]]);
    await userEvent.click(screen.getByRole('button', { name: 'Turn round' }));
    expect(onCommit.mock.calls[2][0]).toEqual([
      { at: 0, colour: '#ffffff' },
      { at: 0.6, colour: '#b5322b' },
      { at: 1, colour: '#000000' },
    ]);
  });
});

it('a gradient of the brand is taken in one press', async () => {
  const onCommit = vi.fn();
  const named = [{ name: 'Dusk', stops: [stops[0], stops[2]] }];
  render(
    <GradientsContext value={named}>
      <StopsControl label="Colours" value={stops} palette={[]} onCommit={onCommit} />
    </GradientsContext>,
  );
  await userEvent.click(screen.getByRole('button', { name: 'Dusk' }));
  expect(onCommit).toHaveBeenCalledWith([stops[0], stops[2]]);
});

describe('colours that become others', () => {
  it('are left out, kept again, and taken off the list', async () => {
    const onCommit = vi.fn();
    const pairs = [
      { from: '#1f5a45', to: '#ffffff' },
      { from: '#ffffff', clear: true as const },
    ];
    render(<PairsControl label="Colours" value={pairs} palette={[]} onCommit={onCommit} />);
    await userEvent.click(screen.getByRole('button', { name: 'Leave out' }));
    expect(onCommit.mock.calls[0][0]).toEqual([{ from: '#1f5a45', clear: true }, pairs[1]]);
    await userEvent.click(screen.getByRole('button', { name: 'Keep' }));
    expect(onCommit.mock.calls[1][0][1]).toEqual({ from: '#ffffff', to: '#ffffff' });
    await userEvent.click(screen.getByRole('button', { name: 'Take row 1 out' }));
    expect(onCommit.mock.calls[2][0]).toEqual([pairs[1]]);
    await userEvent.click(screen.getByRole('button', { name: 'Another colour' }));
    expect(onCommit.mock.calls[3][0]).toHaveLength(3);
  });
});
