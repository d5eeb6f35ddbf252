import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { paths } from '../../../contract/paths';
import { cardView } from '../../../tests/support/webViews';
import { RemovedMarks, returnWords } from './RemovedMarks';

const DAY = 86_400_000;
let asked: string[];
beforeEach(() => {
  asked = [];
  vi.stubGlobal('fetch', async (path: string, { method }: RequestInit) => {
    asked.push(`${method} ${path}`);
    return method === 'DELETE' ? new Response(null, { status: 204 }) : Response.json({});
  });
  const marks = [cardView({ id: 'r1', name: 'Old badge', removedAt: new Date(Date.now() - 3 * DAY).toISOString() })];
  render(
    <QueryClientProvider client={new QueryClient()}>
      <RemovedMarks marks={marks} />
    </QueryClientProvider>,
  );
});

describe('removed marks', () => {
  it('say how long each can be brought back, and bring it back', async () => {
    expect(screen.getByText(/can be brought back for 27 days/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Bring back' }));
    await waitFor(() => expect(asked).toEqual([`POST ${paths.markReturn('r1')}`]));
  });
  it('are removed for good only after a question that says there is no way back', async () => {
    await userEvent.click(screen.getByRole('button', { name: 'Remove for good' }));
    expect(await screen.findByText(/There is no way back/)).toBeTruthy();
    expect(asked).toEqual([]);
    await userEvent.click(screen.getAllByRole('button', { name: 'Remove for good' }).at(-1) as HTMLElement);
    await waitFor(() => expect(asked).toEqual([`DELETE ${paths.mark('r1')}?forGood=1`]));
  });
});

it('the last day is told as such', () => {
  const now = Date.parse('2026-03-31T12:00:00Z');
  expect(returnWords('2026-03-01T13:00:00Z', now)).toBe('can be brought back until tomorrow');
  expect(returnWords('2026-03-30T12:00:00Z', now)).toBe('can be brought back for 29 days');
});
