import { describe, expect, it } from 'vitest';
import { balanceOf } from './contentBalance';

const of = (text: string) => balanceOf(Buffer.from(text, 'latin1'));

describe('what a page’s content leaves behind', () => {
  it.each([
    ['q 1 0 0 1 0 0 cm Q', { open: 0, extra: 0, inText: false }],
    ['q q 0.5 0 0 0.5 0 0 cm Q', { open: 1, extra: 0, inText: false }],
    ['Q Q q', { open: 1, extra: 2, inText: false }],
    ['BT /F1 12 Tf (q Q q) Tj', { open: 0, extra: 0, inText: true }],
    ['BT (a \\) q (nested q) ) Tj ET q', { open: 1, extra: 0, inText: false }],
    ['% q q q\nq', { open: 1, extra: 0, inText: false }],
    ['/q gs <71205120> Tj << /Q /q >> BDC', { open: 0, extra: 0, inText: false }],
    ['BI /W 2 /H 1 /BPC 8 /CS /G ID q Q q\nEI Q', { open: 0, extra: 1, inText: false }],
    ['', { open: 0, extra: 0, inText: false }],
  ])('%s', (text, expected) => expect(of(text)).toEqual(expected));
});
