import { act, renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { useHeldDraft } from './useHeldDraft';

const open = () => {
  let stored = 1;
  const ends: (() => void)[] = [];
  const { result, rerender } = renderHook(({ shown }) => useHeldDraft<string>(shown, () => stored), {
    initialProps: { shown: 1 },
  });
  const hold = (value: string) =>
    act(() => result.current.hold(value, () => new Promise<void>((end) => ends.push(end))));
  const end = (k: number, edition: number) =>
    act(async () => {
      stored = edition;
      ends[k]();
    });
  const show = (shown: number) => rerender({ shown });
  return {
    draft: () => result.current.draft,
    hold,
    end,
    show,
    preview: (v: string) => act(() => result.current.preview(v)),
  };
};

describe('what is under the hand', () => {
  it('stays until the stored one is shown, not only stored', async () => {
    const held = open();
    held.hold('green');
    expect(held.draft()).toBe('green');
    await held.end(0, 2);
    expect(held.draft()).toBe('green');
    held.show(2);
    expect(held.draft()).toBeNull();
  });
  it('is not given up for an earlier change that comes back meanwhile', async () => {
    const held = open();
    held.hold('green');
    held.hold('blue');
    await held.end(0, 2);
    held.show(2);
    expect(held.draft()).toBe('blue');
    await held.end(1, 3);
    held.show(3);
    expect(held.draft()).toBeNull();
  });
  it('gives way to what is stored where a change was refused', async () => {
    const held = open();
    held.hold('green');
    await held.end(0, 1);
    expect(held.draft()).toBeNull();
  });
  it('shows what is only looked at for as long as nothing is stored', () => {
    const held = open();
    held.preview('red');
    held.show(2);
    expect(held.draft()).toBe('red');
  });
});
