import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { paths } from '../../../contract/paths';
import type { HistoryEntry } from '../../../contract/views';
import { markView } from '../../../tests/support/webViews';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import type { Bench } from './Bench';
import { ConflictDialog } from './ConflictDialog';
import { HistoryDrawer } from './HistoryDrawer';

const entry = (e: Partial<HistoryEntry>): HistoryEntry => ({
  revision: 7,
  parent: 6,
  why: 'Set the tolerance',
  name: null,
  madeBy: null,
  madeAt: '2026-03-01T10:00:00.000Z',
  isCurrent: false,
  ...e,
});
let entries: HistoryEntry[];
let patched: unknown[];
const goTo = vi.fn();
beforeEach(() => {
  patched = [];
  goTo.mockReset();
  entries = [entry({ isCurrent: true }), entry({ revision: 6, why: 'Taken in', name: 'As it came' })];
  vi.stubGlobal('fetch', async (_path: string, init: RequestInit) => {
    if (init.method === 'PATCH') {
      const body = JSON.parse(init.body as string) as { name: string | null };
      patched.push(body);
      entries = entries.map((e) => (e.revision === 6 ? { ...e, ...body } : e));
    }
    return Response.json(entries);
  });
});

describe('the history', () => {
  beforeEach(async () => {
    render(
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <HistoryDrawer mark={markView()} draft={{ goTo } as unknown as RecipeDraft} isOpen onClose={() => {}} />
      </QueryClientProvider>,
    );
    await screen.findByText('As it came');
  });
  it('lists what was done, under its name where it has one, and goes back to it', async () => {
    expect(screen.getByText('shown now')).toBeTruthy();
    expect(screen.getByText(/Taken in · /)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Go back to this' }));
    expect(goTo).toHaveBeenCalledWith(6);
  });
  it('compares one with what is shown now, and puts it away again', async () => {
    await userEvent.click(screen.getByRole('button', { name: 'Compare' }));
    expect(screen.getByRole('slider', { name: 'Wipe between the two' })).toBeTruthy();
    const pictures = [...document.querySelectorAll('.two-pictures img')].map((img) => img.getAttribute('src'));
    expect(pictures).toEqual([paths.revisionWhole('m1', 6), paths.revisionWhole('m1', 7)]);
    await userEvent.click(screen.getByRole('button', { name: 'Put away' }));
    expect(screen.queryByRole('slider')).toBeNull();
  });
  it('gives an entry another name, or none', async () => {
    await userEvent.click(screen.getByRole('button', { name: 'Rename' }));
    await userEvent.clear(screen.getByLabelText('Name of this revision'));
    await userEvent.type(screen.getByLabelText('Name of this revision'), 'For Bram{Enter}');
    expect(await screen.findByText('For Bram')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Rename' }));
    await userEvent.clear(screen.getByLabelText('Name of this revision'));
    await userEvent.tab();
    await waitFor(() => expect(patched).toEqual([{ name: 'For Bram' }, { name: null }]));
  });
});

describe('two windows on one mark', () => {
  const settleConflict = vi.fn();
  const show = (conflict: RecipeDraft['conflict']) =>
    render(
      <ConflictDialog bench={{ draft: { conflict, settleConflict }, engine: { beads: {} } } as unknown as Bench} />,
    );
  it('says nothing while there is nothing to choose', () => {
    show(null);
    expect(screen.queryByRole('dialog')).toBeNull();
  });
  it('shows both side by side and takes the one that is chosen', async () => {
    show({ mine: markView().recipe, why: 'Rub out', theirs: markView({ revision: 9 }) });
    expect(screen.getByAltText('As the other window has it').getAttribute('src')).toBe(
      paths.revisionThumbnail('m1', 9),
    );
    expect(screen.getByText('Rub out, not stored yet')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take that one' }));
    await userEvent.click(screen.getByRole('button', { name: 'Go on with this one' }));
    expect(settleConflict.mock.calls).toEqual([['theirs'], ['mine']]);
  });
});
