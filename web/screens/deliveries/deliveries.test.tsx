import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import { paths } from '../../../contract/paths';
import type { DeliveryView } from '../../../contract/views';
import { brandView, deliveryView } from '../../../tests/support/webViews';
import { DeliveriesScreen } from './DeliveriesScreen';

let asked: string[] = [];
const show = (list: readonly DeliveryView[]) => {
  asked = [];
  vi.stubGlobal('fetch', async (path: string, { method }: RequestInit) => {
    if (method !== 'GET') asked.push(`${method} ${path}`);
    return Response.json(path === paths.brands ? [brandView] : list);
  });
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>
        <DeliveriesScreen />
      </MemoryRouter>
    </QueryClientProvider>,
  );
};

describe('the deliveries of a brand', () => {
  it('says what to do where there are none', async () => {
    show([]);
    expect((await screen.findByText(/No files were made yet/)).textContent).toContain('go to Files');
  });
  it('lists each with its mark and its download', async () => {
    show([deliveryView()]);
    const link = await screen.findByRole('link', { name: 'trust-badge-files.zip' });
    expect(link.getAttribute('href')).toBe(paths.deliveryZip('d1'));
    expect(screen.getByRole('link', { name: 'Trust badge' }).getAttribute('href')).toBe('/marks/m1/files');
  });
  it('says why one was not made, and offers nothing to download of it', async () => {
    show([deliveryView({ state: 'failed', problem: 'The disk is full.' })]);
    expect((await screen.findByText(/not made/)).textContent).toBe('not made: The disk is full.');
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(asked).toEqual([`POST ${paths.deliveryAgain('d1')}`]);
    expect(screen.queryByRole('link', { name: /zip/ })).toBeNull();
  });
  it('says which are out of date, and makes those again as another', async () => {
    const marks = [
      { id: 'm1', name: 'Trust badge', revision: 7 },
      { id: 'm2', name: 'Ferry', revision: 9 },
    ];
    show([deliveryView({ isOutdated: true, marks })]);
    expect((await screen.findByText(/^ready/)).textContent).toBe('ready, out of date');
    expect(screen.getByRole('link', { name: 'Ferry' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Make again' }));
    expect(asked).toEqual([`POST ${paths.deliveryAgain('d1')}`]);
  });
  it('is put in order by a press on a heading', async () => {
    const named = (id: string, name: string) =>
      deliveryView({ id, markName: name, marks: [{ id: 'm1', name, revision: 7 }] });
    show([named('d1', 'Trust badge'), named('d2', 'Ferry')]);
    const names = () =>
      screen
        .getAllByRole('row')
        .slice(1)
        .map((row) => row.querySelector('a')?.textContent);
    await screen.findByRole('link', { name: 'Ferry' });
    expect(names()).toEqual(['Trust badge', 'Ferry']);
    await userEvent.click(screen.getByRole('columnheader', { name: /Mark/ }));
    expect(names()).toEqual(['Ferry', 'Trust badge']);
  });
});
