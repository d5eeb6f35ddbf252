import { expect, it } from 'vitest';
import { base64 } from './base64';

// RFC 4648, 10, and a long text against the engine's own.
it.each([
  ['', ''],
  ['f', 'Zg=='],
  ['fo', 'Zm8='],
  ['foo', 'Zm9v'],
  ['foobar', 'Zm9vYmFy'],
])('base64 of "%s"', (text, meant) => expect(base64(new TextEncoder().encode(text))).toBe(meant));
it('is the same for every byte, at length', () => {
  const bytes = Uint8Array.from({ length: 20_001 }, (_, k) => (k * 31) % 256);
  expect(base64(bytes)).toBe(Buffer.from(bytes).toString('base64'));
});
