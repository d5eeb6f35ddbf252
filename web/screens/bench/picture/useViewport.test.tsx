import { act, renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { MOST_ZOOM, useViewport } from './useViewport';

const boxOf = (width: number, height: number) => {
  const element = document.createElement('div');
  Object.defineProperties(element, { clientWidth: { value: width }, clientHeight: { value: height } });
  return { current: element };
};
const show = (width = 1000, height = 500, box = boxOf(656, 456)) => {
  const { result } = renderHook(() => useViewport(box, width, height));
  return { result, element: box.current };
};

describe('the view of a picture', () => {
  it('starts with all of it in the middle, with a margin', () => {
    const { result } = show();
    expect(result.current.isFit).toBe(true);
    expect(result.current.view).toEqual({ scale: 0.6, x: 28, y: 78 });
  });
  it('shows a small picture at twice its size at most', () => {
    expect(show(20, 20).result.current.view.scale).toBe(2);
  });
  it('keeps the place under the pointer where it is while it zooms', () => {
    const { result } = show();
    act(() => result.current.zoomAt(4, 328, 228));
    const { scale, x, y } = result.current.view;
    expect(scale).toBeCloseTo(2.4, 9);
    expect([(328 - x) / scale, (228 - y) / scale]).toEqual([500, 250]);
  });
  it('zooms no closer than to single pixels and no further out than the whole', () => {
    const { result } = show();
    act(() => result.current.zoomAt(1e6));
    expect(result.current.view.scale).toBe(MOST_ZOOM);
    act(() => result.current.zoomAt(1e-9));
    expect(result.current.isFit).toBe(true);
  });
  it('goes to a scale by name, and back to all of it', () => {
    const { result } = show();
    act(() => result.current.zoomTo(1));
    expect(result.current.view.scale).toBeCloseTo(1, 9);
    act(() => result.current.showAll());
    expect(result.current.view.scale).toBe(0.6);
  });
  it('moves by what the hand moved, several times in one frame too', () => {
    const { result } = show();
    act(() => result.current.panBy(10, -5));
    act(() => result.current.panBy(1, 1));
    expect(result.current.view).toEqual({ scale: 0.6, x: 39, y: 74 });
  });
  it('brings a place into the middle only when it cannot be seen well', () => {
    const { result } = show();
    act(() => result.current.bringIntoView({ x: 500, y: 250 }));
    expect(result.current.isFit).toBe(true);
    act(() => result.current.bringIntoView({ x: 2, y: 2 }));
    const { scale, x, y } = result.current.view;
    expect([2 * scale + x, 2 * scale + y]).toEqual([328, 228]);
  });
  it('takes the wheel for itself, so that the page stays', () => {
    const { result, element } = show();
    const event = new WheelEvent('wheel', { deltaY: -100, cancelable: true });
    act(() => void element.dispatchEvent(event));
    expect(event.defaultPrevented).toBe(true);
    expect(result.current.view.scale).toBeGreaterThan(0.6);
  });
});
