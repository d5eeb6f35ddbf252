import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, expect, it, vi } from 'vitest';
import { useBrand, useBrandOf } from './useBrand';

const brands = [
  { id: 'a', name: 'Lock keepers' },
  { id: 'b', name: 'Rowing club' },
];
beforeEach(() => {
  vi.stubGlobal('fetch', async () => Response.json(brands));
});
const inApp = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
);
const use = (id: string | undefined) =>
  renderHook(() => ({ own: useBrandOf(id), chosen: useBrand() }), { wrapper: inApp });

it('whoever opens something of another brand stays in that brand, until another is chosen', async () => {
  const { result } = use('b');
  await waitFor(() => expect(result.current.own?.name).toBe('Rowing club'));
  expect(result.current.chosen.brand?.id).toBe('b');
  act(() => result.current.chosen.choose('a'));
  expect(result.current.chosen.brand?.id).toBe('a');
  expect(result.current.own?.id).toBe('b');
});
it('what belongs to nobody yet changes nothing', async () => {
  const { result } = use(undefined);
  await waitFor(() => expect(result.current.own?.id).toBe('a'));
  expect(localStorage.getItem('tassel-brand')).toBeNull();
});
