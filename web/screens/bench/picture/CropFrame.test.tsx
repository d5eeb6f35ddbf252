import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { CropFrame } from './CropFrame';

const show = (rect = { x: 20, y: 10, width: 60, height: 40 }) => {
  const onChange = vi.fn();
  render(
    <CropFrame rect={rect} turnDeg={0} width={200} height={100} view={{ scale: 2, x: 5, y: 7 }} onChange={onChange} />,
  );
  return onChange;
};
const handle = (name: string) => screen.getByRole('button', { name: `Crop ${name}; arrow keys move it` });

describe('the crop frame', () => {
  it('lies where the region is seen', () => {
    show();
    const { style } = document.querySelector('.crop') as HTMLElement;
    expect([style.left, style.top, style.width, style.height]).toEqual(['45px', '27px', '120px', '80px']);
  });
  it('has eight handles and an inside, each named for what it moves', () => {
    show();
    expect(screen.getAllByRole('button')).toHaveLength(9);
  });
  it('moves one side by the arrow keys, ten times as far with Shift', () => {
    const onChange = show();
    fireEvent.keyDown(handle('right'), { key: 'ArrowRight' });
    expect(onChange).toHaveBeenLastCalledWith({ x: 20, y: 10, width: 61, height: 40 }, true);
    fireEvent.keyDown(handle('top'), { key: 'ArrowUp', shiftKey: true });
    expect(onChange).toHaveBeenLastCalledWith({ x: 20, y: 0, width: 60, height: 50 }, true);
  });
  it('moves as a whole by its inside, and stops at the border of the picture', () => {
    const onChange = show({ x: 139, y: 10, width: 60, height: 40 });
    const inside = screen.getByRole('button', { name: 'Crop region; arrow keys move it' });
    fireEvent.keyDown(inside, { key: 'ArrowRight', shiftKey: true });
    expect(onChange).toHaveBeenLastCalledWith({ x: 140, y: 10, width: 60, height: 40 }, true);
  });
  it('leaves other keys to the bench', () => {
    const onChange = show();
    fireEvent.keyDown(handle('left'), { key: 'Enter' });
    expect(onChange).not.toHaveBeenCalled();
  });
});
