import { describe, expect, it } from 'vitest';
import { readColour } from './readColour';

// The values of CSS Color 4: its table of names, and its examples of hsl() and oklch().
describe('readColour', () => {
  it.each([
    ['#6A2A5B', '#6a2a5b'],
    ['6a2a5b', '#6a2a5b'],
    ['#fa0', '#ffaa00'],
    ['rebeccapurple', '#663399'],
    [' Teal ', '#008080'],
    ['rgb(18, 52, 86)', '#123456'],
    ['rgb(100% 0% 0%)', '#ff0000'],
    ['hsl(120 100% 25%)', '#008000'],
    ['oklch(0.62796 0.25768 29.23)', '#ff0000'],
    ['oklch(100% 0 0)', '#ffffff'],
  ])('reads %s', (text, hex) => expect(readColour(text)).toBe(hex));
  it('brings what no screen shows as near as it comes', () =>
    expect(readColour('oklch(0.7 0.4 150)')).toMatch(/^#[0-4]/));
  it.each(['', 'plumish', '#12345', 'rgb(0 0 0 / 50%)', 'transparent', 'url(x)'])('refuses "%s"', (text) =>
    expect(readColour(text)).toBeNull(),
  );
});
