import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Shown } from '../../data/useEngine';
import { ProofStrip } from './ProofStrip';

const grounds = [
  { id: 'white', name: 'White', hex: '#ffffff', url: null },
  { id: 'black', name: 'Black', hex: '#000000', url: null },
];
const show = (contrast: Record<string, number> | null, chosen: string | null = null) => {
  const onChoose = vi.fn();
  const standings = Object.entries(contrast ?? {}).map(([id, ratio]) => [
    id,
    { ratio, shareAbove3: ratio >= 3 ? 1 : 0 },
  ]);
  const shown = contrast && ({ perStage: {}, contrast: Object.fromEntries(standings) } as unknown as Shown);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <ProofStrip grounds={grounds} shown={shown} chosen={chosen} onChoose={onChoose} />
    </QueryClientProvider>,
  );
  return onChoose;
};

describe('proofs on grounds', () => {
  it('say that they are being measured before anything is there, and no figure', () => {
    show(null);
    expect(screen.getAllByRole('status', { name: 'Being measured' })).toHaveLength(2);
    expect(document.body.textContent).not.toMatch(/: 1/);
  });
  it('name each ground with its contrast, and warn where it is weak', () => {
    show({ white: 8.04, black: 1.2 });
    expect(screen.getByText('White · 8.0 : 1').className).toBe('proof-name');
    expect(screen.getByText('Black · 1.2 : 1, lost').className).toBe('proof-name is-weak');
  });
  it('put a ground under the bench by a press, and show which one lies there', async () => {
    const onChoose = show({ white: 8, black: 3 }, 'black');
    expect(screen.getByRole('button', { name: /Black/ }).getAttribute('aria-pressed')).toBe('true');
    await userEvent.click(screen.getByRole('button', { name: /White/ }));
    expect(onChoose).toHaveBeenCalledWith('white');
  });
});
