import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { brandView } from '../../../tests/support/webViews';
import type { GroundView } from '../../../contract/views';
import { GroundsScreen } from './GroundsScreen';

const ground = (id: string, change: Partial<GroundView> = {}): GroundView => ({
  ...{ id, name: id, tone: 'light', hex: null, width: 1600, height: 1000, picture: `/p/${id}`, isProof: true },
  ...change,
});
let grounds: GroundView[];
const sent: { method: string; path: string; body: unknown }[] = [];
beforeEach(() => {
  grounds = ['a', 'b', 'c', 'd', 'e'].map((id) => ground(id));
  sent.length = 0;
  vi.stubGlobal('fetch', async (path: string, { method = 'GET', body }: RequestInit = {}) => {
    if (method !== 'GET') {
      sent.push({ method, path, body: typeof body === 'string' ? JSON.parse(body) : body });
      const name = /name=(.*)/.exec(path)?.[1];
      if (name === 'broken.jpg')
        return Response.json(
          { error: { code: 'intake/damaged', message: 'broken.jpg is damaged.', details: {} } },
          { status: 422 },
        );
      return method === 'DELETE' ? new Response(null, { status: 204 }) : Response.json(ground('new'));
    }
    return Response.json(path.endsWith('/grounds') ? grounds : [brandView]);
  });
});
afterEach(() => vi.unstubAllGlobals());
const show = () =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <GroundsScreen />
    </QueryClientProvider>,
  );
const card = (name: string) => screen.findByRole('article', { name });

describe('the grounds', () => {
  it('tell which six marks are proved on, and which wait for room', async () => {
    show();
    expect(
      within(await card('d'))
        .getByRole('button', { name: 'Proof' })
        .getAttribute('aria-pressed'),
    ).toBe('true');
    expect(within(await card('e')).getByText('Proof, in waiting')).toBeTruthy();
    await userEvent.click(within(await card('d')).getByRole('button', { name: 'Proof' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ method: 'PATCH', path: '/api/grounds/d', body: { isProof: false } }),
    );
  });
  it('are renamed and removed where they stand', async () => {
    show();
    const name = within(await card('a')).getByRole('textbox', { name: 'Name of a' });
    await userEvent.clear(name);
    await userEvent.type(name, 'Dawn{Enter}');
    await waitFor(() => expect(sent[0]?.body).toEqual({ name: 'Dawn' }));
    await userEvent.click(within(await card('b')).getByRole('button', { name: 'Remove b' }));
    await waitFor(() => expect(sent[1]).toMatchObject({ method: 'DELETE', path: '/api/grounds/b' }));
  });
  it('take colours and photos, and a photo that is refused is named beside the others', async () => {
    show();
    await userEvent.type(await screen.findByRole('textbox', { name: 'Name of the colour' }), 'Night{Enter}');
    await waitFor(() => expect(sent[0]?.body).toEqual({ name: 'Night', hex: '#8a8a8a' }));
    const files = ['broken.jpg', 'fine.jpg'].map((n) => new File(['x'], n, { type: 'image/jpeg' }));
    await userEvent.upload(screen.getByLabelText('Choose photos'), files);
    expect((await screen.findByRole('alert')).textContent).toBe('broken.jpg is damaged.');
    await waitFor(() => expect(sent).toHaveLength(3));
  });
});
