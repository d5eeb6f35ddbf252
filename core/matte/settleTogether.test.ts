import { describe, expect, it } from 'vitest';
import { renderSvg } from '../../demo/render';
import { textPath } from '../../demo/text';
import { onGround } from '../../tests/support/pictures';
import { cutOutFlat, plainFlat } from './cutOutFlat';
import type { EnclosedArea } from './enclosedAreas';
import { findLettering, varyAsLetters } from './lettering';

const areasOf = (body: string, width = 500, height = 400): readonly EnclosedArea[] =>
  cutOutFlat(onGround(renderSvg(body, width, height), [255, 255, 255]), { ...plainFlat, onlyAreas: true }).facts.areas;
const asked = (areas: readonly EnclosedArea[]) => areas.filter((a) => a.certainty < 0.75);
const questions = (areas: readonly EnclosedArea[]) => new Set(asked(areas).map((a) => a.group)).size;

describe('areas that belong together', () => {
  const plate = '<circle cx="200" cy="200" r="190" fill="#274690"/>';
  const fish =
    '<g fill="#fff"><path d="M70 200Q170 100 290 200Q170 300 70 200Z"/><path d="M296 200L350 150Q335 200 350 250Z"/>' +
    '<path d="M150 290q40 20 80 0v16q-40 20 -80 0Z"/></g><circle cx="120" cy="190" r="9" fill="#274690"/>';
  it('a figure in a plate is one question with its ring line, and stays unless told otherwise', () => {
    const ring = '<circle cx="200" cy="200" r="172" fill="none" stroke="#fff" stroke-width="6"/>';
    const areas = areasOf(plate + ring + fish, 400, 400);
    expect(areas).toHaveLength(4);
    expect(asked(areas)).toHaveLength(4);
    expect(questions(areas)).toBe(1);
    expect(areas.map((a) => a.decision)).toEqual(['solid', 'solid', 'solid', 'solid']);
    expect(areas[0].asks).toBe('figure');
  });
  it('lettering knocked out of a plate is one question, its dots with it', () => {
    const word = `<path d="${textPath('Sigil', 'sans', 120, 60, 240)}" fill="#fff"/>`;
    const areas = areasOf(`<rect x="20" y="80" width="440" height="240" fill="#274690"/>${word}`);
    expect(areas).toHaveLength(7);
    expect(questions(areas)).toBe(1);
    expect(asked(areas)).toHaveLength(7);
    expect(new Set(areas.map((a) => `${a.decision} ${a.asks}`))).toEqual(new Set(['solid lettering']));
  });
  it('outlined letters are one question, and their counters are open for sure', () => {
    const d = textPath('ABODE', 'grotesque', 110, 20, 200, 8);
    const areas = areasOf(`<path d="${d}" fill="none" stroke="#8a1c4a" stroke-width="3"/>`, 560, 260);
    expect(questions(areas)).toBe(1);
    const insides = areas.filter((a) => a.asks === 'outlined');
    expect(insides).toHaveLength(5);
    const counters = areas.filter((a) => a.asks === null);
    expect(counters).toHaveLength(5);
    expect(counters.every((a) => a.decision === 'open' && a.certainty > 0.9)).toBe(true);
  });
  it('counters of small bold words are open and never asked for, on an arc too', () => {
    const d = textPath('BARGE 486', 'grotesque', 44, 20, 60, 3);
    const areas = areasOf(`<path d="${d}" fill="#1c1b1d" stroke="#1c1b1d" stroke-width="3"/>`, 330, 90);
    expect(areas.length).toBeGreaterThan(6);
    expect(areas.filter((a) => a.decision !== 'open' || a.certainty < 0.9)).toEqual([]);
  });
  it('a row of buttons of one shape is no word: the white on them is not opened for sure', () => {
    const star = (x: number) =>
      `<path d="M${x} 30L${x + 7} 52H${x + 28}L${x + 11} 64L${x + 17} 84L${x} 72L${x - 17} 84L${x - 11} ` +
      `64L${x - 28} 52H${x - 7}Z" fill="#fff"/>`;
    const buttons = [60, 170, 280, 390].map((x) => `<circle cx="${x}" cy="60" r="48" fill="#274690"/>${star(x)}`);
    const areas = areasOf(buttons.join(''), 450, 120);
    expect(areas).toHaveLength(4);
    expect(areas.filter((a) => a.decision === 'open' && a.certainty > 0.75)).toEqual([]);
  });
  it('a wide ring with a figure inside is asked for once, a thin one and a target are not', () => {
    const boat =
      '<g fill="#b5322b"><path d="M190 110v110h-80Z"/><path d="M205 120l70 100h-70Z"/>' +
      '<path d="M100 235h200l-40 60h-120Z"/></g>';
    const ring = (w: number) =>
      `<circle cx="200" cy="200" r="${190 - w / 2}" fill="none" stroke="#274690" stroke-width="${w}"/>`;
    const wide = areasOf(ring(44) + boat, 400, 400);
    expect(questions(wide)).toBe(1);
    expect(asked(wide)[0].asks).toBe('ring');
    expect(questions(areasOf(ring(8) + boat, 400, 400))).toBe(0);
    expect(questions(areasOf(`${ring(44)}<circle cx="200" cy="200" r="70" fill="#b5322b"/>`, 400, 400))).toBe(0);
  });
  it('what shows the ground inside something solid is solid with it', () => {
    const inner = `<circle cx="170" cy="200" r="34" fill="none" stroke="#274690" stroke-width="9"/>`;
    const areas = areasOf(plate + fish + inner, 400, 400);
    const eye = areas.find((a) => Math.hypot(a.x - 170, a.y - 200) < 30);
    expect(eye?.decision).toBe('solid');
    expect(eye?.group).toBe(areas[0].group);
  });
});

describe('lines of lettering', () => {
  const glyph = (left: number, top: number, width: number, height: number) => ({
    left,
    top,
    right: left + width - 1,
    bottom: top + height - 1,
    areaPx: width * height * 0.5,
  });
  it('are neighbours of like height in a row, without the picture beside them', () => {
    const word = [glyph(100, 20, 18, 30), glyph(124, 28, 16, 22), glyph(144, 28, 16, 30), glyph(164, 20, 8, 30)];
    const lines = findLettering([glyph(0, 0, 90, 90), ...word, glyph(100, 300, 20, 30)]);
    expect(lines).toEqual([[1, 2, 3, 4]]);
    expect(findLettering(word.slice(0, 2))).toEqual([]);
  });
  it('differ among themselves, as panes and bars do not', () => {
    const panes = [0, 1, 2].map((k) => glyph(k * 40, 0, 30, 30));
    expect(varyAsLetters(panes)).toBe(false);
    expect(varyAsLetters([...panes, glyph(120, 0, 14, 30)])).toBe(true);
  });
});
