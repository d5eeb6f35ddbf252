import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { BrushSurface, OutlineSurface } from './HandTools';

const view = { scale: 2, x: 10, y: 20 };
const at = (x: number, y: number, more: object = {}) => ({
  clientX: x,
  clientY: y,
  button: 0,
  pointerId: 1,
  pointerType: 'mouse',
  ...more,
});
const surface = () => screen.getByRole('application');

describe('a brush on the picture', () => {
  const onStroke = vi.fn();
  const show = () =>
    render(
      <BrushSurface
        label="Rub"
        view={view}
        brush={{ size: 10, hardness: 1 }}
        scale={2}
        settled={null}
        colour="#000"
        onStroke={onStroke}
      />,
    );
  it('gives its way in the picture’s own pixels, once it is lifted', () => {
    show();
    fireEvent.pointerDown(surface(), at(10, 20));
    fireEvent.pointerMove(surface(), at(30, 40));
    expect(onStroke).not.toHaveBeenCalled();
    fireEvent.pointerUp(surface(), at(30, 40));
    expect(onStroke).toHaveBeenLastCalledWith([
      { x: 0, y: 0, pressure: 1 },
      { x: 10, y: 10, pressure: 1 },
    ]);
  });
  it('with Shift goes straight on from where it was lifted', () => {
    show();
    fireEvent.pointerDown(surface(), at(10, 20));
    fireEvent.pointerUp(surface(), at(10, 20));
    fireEvent.pointerDown(surface(), at(110, 20, { shiftKey: true }));
    fireEvent.pointerUp(surface(), at(110, 20));
    expect(onStroke.mock.lastCall?.[0].map((p: { x: number }) => p.x)).toEqual([0, 50]);
  });
  it('leaves other buttons of the mouse alone', () => {
    onStroke.mockReset();
    show();
    fireEvent.pointerDown(surface(), at(10, 20, { button: 1 }));
    fireEvent.pointerUp(surface(), at(10, 20));
    expect(onStroke).not.toHaveBeenCalled();
  });
});

describe('by keys', () => {
  const keys = (...names: string[]) => names.forEach((key) => fireEvent.keyDown(surface(), { key }));
  it('a brush goes down with the space bar, is moved by the arrows, and is lifted by another press', () => {
    const onStroke = vi.fn();
    const brush = { size: 10, hardness: 1 };
    render(
      <BrushSurface label="Rub" view={view} brush={brush} scale={2} settled={0} colour="#000" onStroke={onStroke} />,
    );
    Object.defineProperties(surface(), { clientWidth: { value: 200 }, clientHeight: { value: 100 } });
    keys('ArrowRight', ' ', 'ArrowDown', 'ArrowDown', ' ');
    const stroke = onStroke.mock.lastCall?.[0] as { x: number; y: number }[];
    expect([stroke[0].x, stroke[0].y]).toEqual([47, 15]);
    expect([stroke.at(-1)?.x, stroke.at(-1)?.y]).toEqual([47, 19]);
  });
  it('an outline gets its corners, and nothing leaves the picture', () => {
    const onLoop = vi.fn();
    render(<OutlineSurface label="Outline" view={view} onLoop={onLoop} />);
    Object.defineProperties(surface(), { clientWidth: { value: 20 }, clientHeight: { value: 20 } });
    keys(' ', 'ArrowRight', ' ');
    fireEvent.keyDown(surface(), { key: 'ArrowDown', shiftKey: true });
    keys(' ');
    fireEvent.keyDown(window, { key: 'Enter' });
    expect(onLoop).toHaveBeenCalledWith([
      { x: 0, y: -5 },
      { x: 2, y: -5 },
      { x: 2, y: 0 },
    ]);
  });
  it('what the tools do not know goes on to the bench', () => {
    const onKey = vi.fn();
    window.addEventListener('keydown', onKey);
    render(<OutlineSurface label="Outline" view={view} onLoop={vi.fn()} />);
    keys('ArrowLeft', ' ', 'Escape');
    fireEvent.keyDown(surface(), { key: 'z', ctrlKey: true });
    expect(onKey.mock.calls.map(([e]) => (e as KeyboardEvent).key)).toEqual(['Escape', 'z']);
    window.removeEventListener('keydown', onKey);
  });
});

describe('an outline on the picture', () => {
  const press = (x: number, y: number) => {
    fireEvent.pointerDown(surface(), at(x, y));
    fireEvent.pointerUp(surface(), at(x, y));
  };
  it('is drawn corner by corner, a corner taken back by Backspace, and closed by Enter', () => {
    const onLoop = vi.fn();
    render(<OutlineSurface label="Outline" view={view} onLoop={onLoop} />);
    press(10, 20);
    press(110, 20);
    press(300, 300);
    fireEvent.keyDown(window, { key: 'Backspace' });
    press(110, 120);
    fireEvent.keyDown(window, { key: 'Enter' });
    expect(onLoop).toHaveBeenCalledWith([
      { x: 0, y: 0 },
      { x: 50, y: 0 },
      { x: 50, y: 50 },
    ]);
  });
  it('is closed by a press on its first corner, and freely drawn in one go', () => {
    const onLoop = vi.fn();
    render(<OutlineSurface label="Outline" view={view} onLoop={onLoop} />);
    for (const [x, y] of [
      [10, 20],
      [110, 20],
      [110, 120],
      [12, 22],
    ])
      press(x, y);
    expect(onLoop).toHaveBeenCalledTimes(1);
    fireEvent.pointerDown(surface(), at(10, 20));
    for (let k = 1; k <= 9; k++) fireEvent.pointerMove(surface(), at(10 + 10 * k, 20 + (k % 3) * 10));
    fireEvent.pointerUp(surface(), at(100, 20));
    expect(onLoop).toHaveBeenCalledTimes(2);
    expect(onLoop.mock.lastCall?.[0]).toHaveLength(10);
  });
});
