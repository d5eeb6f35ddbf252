import { describe, expect, it } from 'vitest';
import { renderSvg } from '../../demo/render';
import { plainCapture, simulateCapture } from '../capture/simulateCapture';
import { measurePaper } from './paperLight';
import { findRuledLines } from './ruledLines';

const stems = [100, 150, 200, 250, 300].map((x) => `M${x} 240L${x + 40} 130`).join('');
const ink = renderSvg(`<path d="${stems}" stroke="#202024" stroke-width="7" fill="none"/>`, 600, 420);
const sheet = (change = {}) => simulateCapture(ink, { ...plainCapture, noise: 4, blurPx: 0.8, ...change }).picture;

describe('printed lines', () => {
  it('are found beside stems that are alike, at their own angle', () => {
    const lined = sheet({ lines: 'ruled', lineSpacingPx: 30, lineWidthPx: 1.4, lineAngleDeg: 3 });
    const found = findRuledLines(measurePaper(lined));
    expect(found).toHaveLength(1);
    expect(found[0].angleDeg).toBeCloseTo(3, 0);
    expect(found[0].offsets.length).toBeGreaterThan(8);
  });
});
