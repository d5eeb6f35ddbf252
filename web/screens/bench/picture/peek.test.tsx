import { fireEvent, render, renderHook, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { KeysScreen, groups } from '../../keys/KeysScreen';
import { usePeek } from './usePeek';

describe('holding the space bar', () => {
  it('shows the original for as long as it is held', () => {
    const { result } = renderHook(usePeek);
    expect(result.current).toBe(false);
    fireEvent.keyDown(document.body, { key: ' ' });
    expect(result.current).toBe(true);
    fireEvent.keyUp(document.body, { key: ' ' });
    expect(result.current).toBe(false);
    fireEvent.keyDown(document.body, { key: ' ' });
    fireEvent.blur(window);
    expect(result.current).toBe(false);
  });
  it('is left to whoever writes or presses a button with it', () => {
    render(
      <>
        <input aria-label="Name" />
        <button type="button">Press</button>
      </>,
    );
    const { result } = renderHook(usePeek);
    fireEvent.keyDown(screen.getByLabelText('Name'), { key: ' ' });
    fireEvent.keyDown(screen.getByRole('button'), { key: ' ' });
    expect(result.current).toBe(false);
  });
});

it('the page of keys lists every key once, with what it does', () => {
  render(<KeysScreen />);
  for (const { title, keys } of groups) {
    expect(screen.getByRole('region', { name: title })).toBeTruthy();
    for (const [key, what] of keys) expect([key.length > 0, what.length > 3]).toEqual([true, true]);
  }
  expect(screen.getByText('Space, held')).toBeTruthy();
  // No key of one letter alone takes up a tool.
  expect(groups.flatMap((g) => g.keys).filter(([key]) => /^[A-Z]$/i.test(key))).toEqual([]);
});
