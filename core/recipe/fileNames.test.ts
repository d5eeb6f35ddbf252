import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lastingPattern, nameByPattern, slug, uniqueNames } from './fileNames';

const parts = {
  brand: 'Harrowmere Lock Keepers’ Trust',
  mark: 'Trust badge',
  variant: 'Reversed',
  purpose: 'Video overlay',
  width: 480,
  height: 482,
  ppi: null,
  date: '2026-03-31',
  version: 7,
};

describe('nameByPattern', () => {
  it('fills the tokens and keeps names plain', () => {
    expect(nameByPattern('{mark}-{variant}-{width}', parts)).toBe('trust-badge-reversed-480');
    expect(nameByPattern('{brand}_{purpose}_{width}x{height}', parts)).toBe(
      'harrowmere-lock-keepers-trust_video-overlay_480x482',
    );
  });
  it('tells the day, the version, and the resolution where there is one', () => {
    expect(nameByPattern('{mark}-{ppi}-{date}-v{version}', { ...parts, ppi: 299.97 })).toBe(
      'trust-badge-300-2026-03-31-v7',
    );
    expect(nameByPattern('{mark}-{ppi}-{date}', parts)).toBe('trust-badge-2026-03-31');
  });
  it('never makes a path or a name that a file system keeps for itself', () => {
    expect(nameByPattern('../{mark}/{variant}', parts)).toBe('trust-badge-reversed');
    expect(nameByPattern('{mark}', { ...parts, mark: 'CON' })).toBe('con-file');
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        try {
          const name = nameByPattern(text.replace(/[{}]/g, ''), parts);
          expect(name).not.toMatch(/[/\\:*?"<>|\u0000-\u001f]|^\.|\.$/); // eslint-disable-line no-control-regex
        } catch (error) {
          expect((error as Error).message).toContain('empty name');
        }
      }),
    );
  });
  it('is no longer than file systems take, in bytes, and keeps what tells files apart', () => {
    const wide = '印'.repeat(120);
    for (const variant of ['Reversed', '反'.repeat(80)]) {
      const name = nameByPattern('{brand}-{mark}-{variant}-{width}', { ...parts, mark: wide, brand: wide, variant });
      expect(Buffer.byteLength(name)).toBeLessThanOrEqual(235);
      expect(name).toMatch(/-480$/);
      expect(name).toContain(variant === 'Reversed' ? '-reversed-' : '反'.repeat(70));
    }
    expect(nameByPattern(`${'🜁x'.repeat(60)}{width}`, parts)).toMatch(/^x-x-.*480$/);
    const pairs = nameByPattern('{mark}-{width}', { ...parts, mark: '𐐷'.repeat(120) });
    expect(pairs).toBe(Buffer.from(pairs).toString());
    expect(pairs).toMatch(/-480$/);
  });
  it('names the token that does not exist', () =>
    expect(() => nameByPattern('{colour}', parts)).toThrow('{colour}; there are {brand}'));
});

it('slug keeps letters of any script and drops the rest', () => {
  expect(slug('Écluse & Søn, № 5')).toBe('ecluse-søn-no-5');
  expect(slug('§§')).toBe('');
});

it('uniqueNames numbers names that would be alike, whatever their case', () => {
  expect(uniqueNames(['a', 'A', 'b', 'a'])).toEqual(['a', 'A-2', 'b', 'a-3']);
  expect(uniqueNames(['a.png', 'a.png', 'a.svg'])).toEqual(['a.png', 'a-2.png', 'a.svg']);
});

it('a name for as long as a file goes on tells nothing that changes', () => {
  expect(lastingPattern('{mark}-{variant}-{width}')).toBe('{mark}-{variant}');
  expect(lastingPattern('{brand}_{mark}_{width}x{height}_{variant}')).toBe('{brand}_{mark}_{variant}');
  expect(lastingPattern('{width}')).toBe('{mark}-{variant}');
});
