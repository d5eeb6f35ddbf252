import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { brandView } from '../../../tests/support/webViews';
import { Shell } from '../../app/Shell';
import { ThemeProvider } from '../../app/theme';
import { send } from '../../data/http';
import { PeopleScreen } from './PeopleScreen';

const people = [{ id: 'p1', name: 'Odile', role: 'keeper', createdAt: '2026-11-20T10:00:00.000Z' }];
const changes = [{ id: 1, madeBy: 'Odile', what: 'POST /api/brands', madeAt: '2026-11-21T10:00:00.000Z' }];
let sent: { method: string; path: string; body: unknown }[];
let answers: Record<string, unknown>;
let refusal: object | null;
beforeEach(() => {
  sent = [];
  refusal = null;
  answers = {
    '/api/people': people,
    '/api/changes': changes,
    '/api/brands': [brandView],
    '/api/me': { name: 'Odile', role: 'keeper' },
  };
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    sent.push({ method: init.method ?? 'GET', path, body: init.body ? JSON.parse(String(init.body)) : null });
    if (refusal && init.method !== 'GET') return new Response(JSON.stringify({ error: refusal }), { status: 422 });
    return new Response(JSON.stringify(answers[path] ?? {}));
  });
});
const show = (what: React.ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <ThemeProvider>
        <MemoryRouter>{what}</MemoryRouter>
      </ThemeProvider>
    </QueryClientProvider>,
  );

describe('people', () => {
  it('are listed with what was changed by whom, and let in with a role', async () => {
    show(<PeopleScreen />);
    await screen.findByText('POST /api/brands');
    await userEvent.type(screen.getByLabelText('Name of the new person'), 'Bram');
    await userEvent.type(screen.getByLabelText('Passphrase of the new person'), 'nine locks and a weir');
    await userEvent.click(screen.getByRole('button', { name: 'Let them in' }));
    const post = () => sent.find((s) => s.method === 'POST');
    await waitFor(() =>
      expect(post()?.body).toEqual({ name: 'Bram', role: 'looker', passphrase: 'nine locks and a weir' }),
    );
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('Name of the new person').value).toBe(''));
  });
  it('what is refused stays in the form, with the reason', async () => {
    refusal = { code: 'people/weak', message: 'A passphrase has at least 10 characters.', details: {} };
    show(<PeopleScreen />);
    await userEvent.type(await screen.findByLabelText('Name of the new person'), 'Bram');
    await userEvent.type(screen.getByLabelText('Passphrase of the new person'), 'long enough words');
    await userEvent.click(screen.getByRole('button', { name: 'Let them in' }));
    await screen.findByText('A passphrase has at least 10 characters.');
    expect(screen.getByLabelText<HTMLInputElement>('Name of the new person').value).toBe('Bram');
  });
});

describe('the shell', () => {
  it('names who is signed in, and shows the people to keepers', async () => {
    show(<Shell />);
    await screen.findByText('Odile');
    expect(screen.getByRole('link', { name: 'People' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Sign out' })).toBeTruthy();
  });
  it('on this machine alone asks nobody and names nobody', async () => {
    answers['/api/me'] = { name: null, role: 'keeper' };
    show(<Shell />);
    await screen.findByText(/Harrowmere/);
    await waitFor(() => expect(sent.some((s) => s.path === '/api/me')).toBe(true));
    expect(screen.queryByRole('link', { name: 'People' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Sign out' })).toBeNull();
  });
});

it('whoever is not signed in any more is shown the page that asks for a name', async () => {
  const reload = vi.fn();
  vi.stubGlobal('location', { ...window.location, reload });
  const error = { code: 'people/sign-in', message: 'Sign in first.', details: {} };
  vi.stubGlobal('fetch', async () => new Response(JSON.stringify({ error }), { status: 401 }));
  await expect(send('GET', '/api/brands')).rejects.toMatchObject({ code: 'people/sign-in' });
  expect(reload).toHaveBeenCalledTimes(1);
});
