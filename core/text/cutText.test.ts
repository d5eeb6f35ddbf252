import fc from 'fast-check';
import { expect, it } from 'vitest';
import { bytesOfText, cutToBytes, cutToLength } from './cutText';

it('cuts between whole characters, marks on letters included', () => {
  expect(cutToBytes('Écluse', 2)).toBe('É');
  expect(cutToBytes('E\u0301cluse', 2)).toBe('');
  expect(cutToBytes('a🜁b', 4)).toBe('a');
  expect(cutToLength('a🜁b', 2)).toBe('a🜁');
  expect(cutToLength('abc', 9)).toBe('abc');
});

it('is the longest beginning that fits, and never half a pair', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 40 }), fc.nat(60), (text, most) => {
      const kept = cutToBytes(text, most);
      expect(text.startsWith(kept)).toBe(true);
      expect(Buffer.byteLength(kept)).toBeLessThanOrEqual(most);
      expect(kept).toBe(Buffer.from(kept).toString());
      expect(bytesOfText(text)).toBe(Buffer.byteLength(text));
    }),
  );
});
