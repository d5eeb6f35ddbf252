/** How wrong guesses are slowed down: so many are free, then each doubles the wait, up to the most. */
interface Rule {
  readonly free: number;
  readonly firstMs: number;
  readonly mostMs: number;
}

/** One address may be many people behind one gateway, so it has more tries than one name from one address. */
const RULES = {
  pair: { free: 5, firstMs: 2_000, mostMs: 120_000 },
  address: { free: 20, firstMs: 2_000, mostMs: 60_000 },
} as const satisfies Record<string, Rule>;
/** Guesses are forgotten after so long. */
const FORGET_MS = 15 * 60_000;
const MOST_KEYS = 20_000;

interface Count {
  wrong: number;
  until: number;
  last: number;
}

export interface SlowDown {
  /** How long to wait before another try, ms; 0 when one is free. */
  wait(name: string, address: string): number;
  wrong(name: string, address: string): void;
  right(name: string, address: string): void;
}

/** Slows guessing from one address; nobody else has to wait for that. @param now  a clock, ms */
export function createSlowDown(now: () => number = Date.now): SlowDown {
  const counts = new Map<string, Count>();
  const keysOf = (name: string, address: string): [string, Rule][] => [
    [`${address} ${name.toLowerCase()}`, RULES.pair],
    [address, RULES.address],
  ];
  const countOf = (key: string): Count => {
    const known = counts.get(key);
    if (known && now() - known.last < FORGET_MS) return known;
    const fresh = { wrong: 0, until: 0, last: now() };
    counts.set(key, fresh);
    for (const oldest of counts.keys()) {
      if (counts.size <= MOST_KEYS) break;
      counts.delete(oldest);
    }
    return fresh;
  };
  return {
    wait: (name, address) =>
      Math.max(0, ...keysOf(name, address).map(([key]) => (counts.get(key)?.until ?? 0) - now())),
    wrong(name, address) {
      for (const [key, { free, firstMs, mostMs }] of keysOf(name, address)) {
        const count = countOf(key);
        count.wrong++;
        count.last = now();
        const over = count.wrong - free;
        if (over >= 0) count.until = now() + Math.min(mostMs, firstMs * 2 ** Math.min(over, 20));
      }
    },
    right: (name, address) => void counts.delete(keysOf(name, address)[0][0]),
  };
}
