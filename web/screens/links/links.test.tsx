import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { LiveView } from '../../../contract/live';
import type { ProofView } from '../../../contract/proofs';
import { brandView } from '../../../tests/support/webViews';
import { ProofLink } from '../../components/ProofLink';
import { LiveLine } from '../files/LiveLine';
import { LinksScreen } from './LinksScreen';

const proof: ProofView = {
  ...{ id: 'p1', path: '/proof/abc', kind: 'variants', title: 'Trust badge', targetId: 'm1', version: 7 },
  ...{ isNewer: true, endsOn: null, state: 'open', openedCount: 3, openedAt: null },
  createdAt: '2026-11-20T10:00:00.000Z',
  answers: [
    {
      ...{ id: 1, kind: 'note', picture: 1, x: 0.5, y: 0.5, who: 'Odile', words: 'Larger here' },
      madeAt: '2026-11-21T10:00:00.000Z',
    },
  ],
};
const live: LiveView = {
  ...{ id: 'l1', path: '/live/k/badge.png', markId: 'm1', markName: 'Trust badge', lineId: 'a', name: 'badge.png' },
  ...{ size: 2048, madeAt: '2026-11-21T10:00:00.000Z', problem: null, fetchedCount: 12 },
  fetchedAt: '2026-11-22T10:00:00.000Z',
};

let sent: { method: string; path: string; body: unknown }[];
let answers: Record<string, unknown>;
beforeEach(() => {
  sent = [];
  answers = {
    '/api/brands': [brandView],
    '/api/brands/b1/proofs': [proof],
    '/api/brands/b1/live': [live],
    '/api/proofs': proof,
  };
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    sent.push({ method: init.method ?? 'GET', path, body: init.body ? JSON.parse(String(init.body)) : null });
    return new Response(JSON.stringify(answers[path] ?? {}));
  });
});
const show = (what: React.ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>{what}</MemoryRouter>
    </QueryClientProvider>,
  );
const last = (method: string) => [...sent].reverse().find((s) => s.method === method);

describe('links', () => {
  it('are listed with what was said, what they show, and how they are used', async () => {
    show(<LinksScreen />);
    await screen.findByText('shows an older version');
    expect(screen.getByText(/Larger here/)).toBeTruthy();
    expect(screen.getByText(/opened 3 times/)).toBeTruthy();
    expect(screen.getByText(/12 times, last/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'badge.png' }).getAttribute('href')).toBe('/live/k/badge.png');
  });
  it('are closed and given an end', async () => {
    show(<LinksScreen />);
    await userEvent.click(await screen.findByRole('button', { name: 'Close' }));
    await waitFor(() => expect(last('PATCH')).toMatchObject({ path: '/api/proofs/p1', body: { isClosed: 'yes' } }));
    const end = screen.getByLabelText('Last day of Trust badge');
    await userEvent.type(end, '2026-12-31');
    await userEvent.tab();
    await waitFor(() => expect(last('PATCH')?.body).toEqual({ endsOn: '2026-12-31' }));
  });
  it('where there are none say how one comes about', async () => {
    answers['/api/brands/b1/proofs'] = [];
    answers['/api/brands/b1/live'] = [];
    show(<LinksScreen />);
    await screen.findByText(/each have a button for one/);
    expect(screen.getByText(/choose a size line and give it one/)).toBeTruthy();
  });
});

it('a proof link is made of what is stored, and shows its address', async () => {
  const settle = vi.fn(async () => {});
  show(<ProofLink kind="wall" targetId="w1" title="Partners" settle={settle} />);
  await userEvent.click(screen.getByRole('button', { name: 'Proof link' }));
  const dialog = await screen.findByRole('dialog');
  await userEvent.click(within(dialog).getByRole('button', { name: 'Make the link' }));
  await within(dialog).findByText(/\/proof\/abc$/);
  expect(settle).toHaveBeenCalled();
  expect(last('POST')?.body).toEqual({ kind: 'wall', targetId: 'w1', title: 'Partners', endsOn: null });
});

describe('a size line’s live address', () => {
  it('is shown where it has one, and given where it has none', async () => {
    show(<LiveLine brandId="b1" markId="m1" lineId="a" settle={async () => {}} />);
    expect((await screen.findByRole('link', { name: 'Open' })).getAttribute('href')).toBe('/live/k/badge.png');
    show(<LiveLine brandId="b1" markId="m1" lineId="b" settle={async () => {}} />);
    await userEvent.click(await screen.findByRole('button', { name: 'Give it one' }));
    await waitFor(() => expect(last('POST')).toMatchObject({ path: '/api/live', body: { markId: 'm1', lineId: 'b' } }));
  });
});
