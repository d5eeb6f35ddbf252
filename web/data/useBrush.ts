import { useSyncExternalStore } from 'react';

export interface Brush {
  /** Diameter, working-picture px. */
  readonly size: number;
  /** 0 soft to 1 hard. */
  readonly hardness: number;
}

const KEY = 'tassel-brush';
const FIRST: Brush = { size: 24, hardness: 1 };
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
let last: { text: string | null; brush: Brush } = { text: null, brush: FIRST };

function readBrush(): Brush {
  const text = localStorage.getItem(KEY);
  if (text !== last.text) {
    try {
      last = { text, brush: { ...FIRST, ...(JSON.parse(text ?? '{}') as Partial<Brush>) } };
    } catch {
      last = { text, brush: FIRST };
    }
  }
  return last.brush;
}

/** The brush in hand, remembered in this browser. */
export function useBrush(): [Brush, (change: Partial<Brush>) => void] {
  const brush = useSyncExternalStore(subscribe, readBrush);
  return [
    brush,
    (change) => {
      localStorage.setItem(KEY, JSON.stringify({ ...brush, ...change }));
      listeners.forEach((call) => call());
    },
  ];
}
