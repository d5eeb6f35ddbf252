import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ProofAnswer, ProofPage } from '../../contract/proofs';
import { ProofApp } from './ProofApp';

const page = (change: Partial<ProofPage> = {}): ProofPage => ({
  ...{ title: 'Trust badge', brand: 'Harrowmere', kind: 'variants', version: 7, isNewer: false, endsOn: null },
  ...{ madeAt: '2026-11-20T10:00:00.000Z', answers: [] },
  pictures: ['Colour', 'Black'].map((title, k) => ({
    ...{ title, words: '', picture: `/proof/k/pictures/${k}`, width: 400, height: 200, isOpaque: false },
    ground: k === 0 ? '#ffffff' : '#141414',
  })),
  ...change,
});

let sent: { path: string; body: Record<string, unknown> | null }[];
let answer: () => Response;
beforeEach(() => {
  sent = [];
  answer = () => new Response(JSON.stringify(page()));
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    const body = init.body ? (JSON.parse(String(init.body)) as Record<string, unknown>) : null;
    sent.push({ path, body });
    if (!body) return answer();
    const said: ProofAnswer = {
      ...{ id: 1, kind: 'note', picture: null, x: null, y: null, who: '', words: '' },
      ...(body as object),
      madeAt: '2026-11-21T10:00:00.000Z',
    };
    return new Response(JSON.stringify([said]), { status: 201 });
  });
});

describe('the page of a proof link', () => {
  it('tells which version it shows, until when, and whether there is a newer one', async () => {
    answer = () => new Response(JSON.stringify(page({ isNewer: true, endsOn: '2026-12-31' })));
    render(<ProofApp linkKey="k" />);
    await screen.findByText(/Version 7, made on November 20, 2026/);
    expect(screen.getByText(/until December 31, 2026/)).toBeTruthy();
    expect(screen.getByText(/There is a newer version/)).toBeTruthy();
    expect(screen.getAllByRole('img').map((i) => i.getAttribute('alt'))).toEqual(['Colour', 'Black']);
  });
  it('takes a yes with a name', async () => {
    render(<ProofApp linkKey="k" />);
    await userEvent.click(await screen.findByRole('button', { name: 'Say yes' }));
    await userEvent.type(screen.getByLabelText('Your name'), 'Odile');
    await userEvent.click(screen.getByRole('button', { name: 'Say yes' }));
    await screen.findByText('You said yes. Thank you.');
    expect(sent.at(-1)).toMatchObject({ path: '/proof/k/answers', body: { kind: 'yes', who: 'Odile', picture: null } });
    expect(screen.getByText(/Odile, November 21/)).toBeTruthy();
  });
  it('pins a note to the place that was pressed, and shows it there', async () => {
    render(<ProofApp linkKey="k" />);
    const picture = await screen.findByRole('button', { name: 'Pin a note on Black' });
    picture.getBoundingClientRect = () => ({ left: 100, top: 50, width: 400, height: 200 }) as DOMRect;
    fireEvent.click(picture, { clientX: 200, clientY: 150, detail: 1 });
    await userEvent.type(screen.getByLabelText('Note'), 'Larger');
    await userEvent.click(screen.getByRole('button', { name: 'Pass it on' }));
    await screen.findByText('Your note was passed on.');
    expect(sent.at(-1)?.body).toMatchObject({ kind: 'note', picture: 1, x: 0.25, y: 0.5, words: 'Larger' });
    await waitFor(() => expect(picture.querySelector('.proof-pin')?.textContent).toBe('1'));
    expect((picture.querySelector('.proof-pin') as HTMLElement).style.left).toBe('25%');
  });
  it('by keyboard a note is pinned to the middle', async () => {
    render(<ProofApp linkKey="k" />);
    (await screen.findByRole('button', { name: 'Pin a note on Colour' })).focus();
    await userEvent.keyboard('{Enter}');
    await userEvent.type(screen.getByLabelText('Note'), 'x');
    await userEvent.click(screen.getByRole('button', { name: 'Pass it on' }));
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ picture: 0, x: 0.5, y: 0.5 }));
  });
  it('shows each picture on what it is meant for, first of all', async () => {
    render(<ProofApp linkKey="k" />);
    await screen.findByRole('button', { name: 'As intended', pressed: true });
    const grounds = [...document.querySelectorAll<HTMLElement>('.proof-ground')].map((g) => g.style.background);
    expect(grounds).toEqual(['#ffffff', '#141414']);
  });
  it('is looked at on light and dark grounds, and at its actual size', async () => {
    render(<ProofApp linkKey="k" />);
    await userEvent.click(await screen.findByRole('button', { name: 'Dark' }));
    expect(document.documentElement.dataset.theme).toBe('dark');
    expect(document.querySelectorAll('.proof-ground.is-dark')).toHaveLength(2);
    await userEvent.click(screen.getByRole('button', { name: 'Actual size' }));
    expect((screen.getAllByRole('img')[0] as HTMLElement).style.width).toBe('400px');
  });
  it('says so where there is nothing to see', async () => {
    const error = { code: 'store/not-found', message: 'This link shows nothing, or nothing any more.', details: {} };
    answer = () => new Response(JSON.stringify({ error }), { status: 404 });
    render(<ProofApp linkKey="k" />);
    await screen.findByText('This link shows nothing, or nothing any more.');
    expect(screen.getByText(/Ask whoever sent you this link/)).toBeTruthy();
  });
});
