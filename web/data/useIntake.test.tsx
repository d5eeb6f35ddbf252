import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { markView } from '../../tests/support/webViews';
import { type IntakeRow, useIntake } from './useIntake';

type Answer = (value: unknown, status?: number) => void;
let waiting: Map<string, Answer>;
beforeEach(() => {
  waiting = new Map();
  vi.stubGlobal(
    'fetch',
    (path: string, { signal }: RequestInit) =>
      new Promise((resolve, reject) => {
        const name = new URL(path, 'http://x').searchParams.get('name') as string;
        waiting.set(name, (value, status = 201) => resolve(new Response(JSON.stringify(value), { status })));
        signal?.addEventListener('abort', () => reject(new DOMException('stopped', 'AbortError')));
      }),
  );
});

const file = (name: string) => new File([new Uint8Array([1])], name);
const open = (onAllDone: (rows: readonly IntakeRow[]) => void = () => {}) => {
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
  );
  return renderHook(() => useIntake('b1', onAllDone), { wrapper });
};
const states = (rows: readonly IntakeRow[]) => Object.fromEntries(rows.map((r) => [r.fileName, r.state]));

describe('taking files in', () => {
  it('sends two at a time and lists each with what became of it', async () => {
    const ended = vi.fn();
    const { result } = open(ended);
    act(() => void result.current.add(['a.png', 'b.png', 'c.png'].map(file)));
    await waitFor(() => expect([...waiting.keys()]).toEqual(['a.png', 'b.png']));
    expect(states(result.current.rows)).toEqual({ 'a.png': 'reading', 'b.png': 'reading', 'c.png': 'waiting' });
    await act(async () => waiting.get('a.png')?.({ mark: markView(), isDuplicate: false }));
    await waitFor(() => expect(waiting.has('c.png')).toBe(true));
    await act(async () => {
      waiting.get('b.png')?.({ mark: markView(), isDuplicate: true }, 200);
      waiting.get('c.png')?.({ error: { code: 'intake/damaged', message: 'c.png is damaged.', details: {} } }, 422);
    });
    await waitFor(() => expect(ended).toHaveBeenCalledOnce());
    expect(states(result.current.rows)).toEqual({ 'a.png': 'done', 'b.png': 'known', 'c.png': 'refused' });
    expect(result.current.rows[2].problem).toBe('c.png is damaged.');
    expect(states(ended.mock.calls[0][0])).toEqual(states(result.current.rows));
  });
  it('cancels what is under way and what waits, and takes in again afterwards', async () => {
    const { result } = open();
    act(() => void result.current.add(['a.png', 'b.png', 'c.png'].map(file)));
    await waitFor(() => expect(waiting.size).toBe(2));
    act(() => result.current.cancel());
    await waitFor(() => expect(new Set(result.current.rows.map((r) => r.state))).toEqual(new Set(['cancelled'])));
    act(() => void result.current.add([file('d.png')]));
    await waitFor(() => expect(waiting.has('d.png')).toBe(true));
    expect(states(result.current.rows)).toEqual({ 'd.png': 'reading' });
  });
  it('clears its list', async () => {
    const { result } = open();
    act(() => void result.current.add([file('a.png')]));
    await waitFor(() => expect(waiting.size).toBe(1));
    await act(async () => waiting.get('a.png')?.({ mark: markView(), isDuplicate: false }));
    act(() => result.current.clear());
    expect(result.current.rows).toEqual([]);
  });
});
