import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { CostChart } from './CostChart';

const show = (value = 30) => {
  const [onPreview, onCommit] = [vi.fn(), vi.fn()];
  render(
    <CostChart
      label="Tolerance"
      value={value}
      most={96}
      steps={{ small: 1, large: 8 }}
      steady={{ from: 20, to: 40 }}
      costs={[
        { at: [0, 48, 96], share: [0.2, 0.01, 0], words: 'ground left' },
        { at: [0, 48, 96], share: [0, 0.02, 0.4], words: 'mark lost', isLoss: true },
      ]}
      words={(v) => `${v} levels`}
      onPreview={onPreview}
      onCommit={onCommit}
    />,
  );
  return { onPreview, onCommit, slider: screen.getByRole('slider', { name: 'Tolerance' }) };
};

describe('a setting on the chart of what it costs', () => {
  it('says its value, and whether that is in the steady range', () => {
    expect(show().slider.getAttribute('aria-valuetext')).toBe('30 levels, in the steady range');
  });
  it('says so outside of it too', () => {
    expect(show(60).slider.getAttribute('aria-valuetext')).toBe('60 levels, outside the steady range');
  });
  it.each([
    ['ArrowRight', 31],
    ['ArrowDown', 29],
    ['PageUp', 38],
    ['PageDown', 22],
  ])('%s sets it to %d', (key, expected) => {
    const { slider, onCommit } = show();
    fireEvent.keyDown(slider, { key });
    expect(onCommit).toHaveBeenCalledWith(expected);
  });
  it('stops at its ends, and leaves other keys alone', () => {
    const { slider, onCommit } = show(2);
    fireEvent.keyDown(slider, { key: 'PageDown' });
    expect(onCommit).toHaveBeenCalledWith(0);
    fireEvent.keyDown(slider, { key: 'Tab' });
    expect(onCommit).toHaveBeenCalledTimes(1);
  });
  it('names both costs, the loss as a warning', () => {
    show();
    expect(screen.getByText('ground left').className).toBe('soft');
    expect(screen.getByText('mark lost').className).toBe('warn');
  });
});
