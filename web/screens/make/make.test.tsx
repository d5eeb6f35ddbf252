import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { PathBuilder } from '../../../core/vector/path';
import { DrawPad, type Drawing, startPen } from './DrawPad';
import { TypeSetter, type TypeValues, startType } from './TypeSetter';
import { useTypeset } from './useTypeset';

vi.mock('./useTypeset', () => ({ useTypeset: vi.fn() }));
const set = vi.mocked(useTypeset);

const palette = [{ name: 'Lamp black', hex: '#1c1b1d' }];
const stroke = (x: number) => ({
  points: [
    [x, 100, 0.5],
    [x + 60, 140, 0.5],
    [x + 120, 90, 0.5],
  ] as const,
  hasPressure: false,
});

describe('the pad', () => {
  const show = (tries: readonly Drawing[], chosen = 0) => {
    const [onTries, onChoose, onPen] = [vi.fn(), vi.fn(), vi.fn()];
    render(
      <DrawPad
        {...{ tries, chosen, palette, onTries, onChoose, onPen }}
        pen={startPen}
        colour="#1c1b1d"
        onColour={() => {}}
      />,
    );
    return { onTries, onChoose, onPen };
  };
  const button = (name: string) => screen.getByRole('button', { name }) as HTMLButtonElement;

  it('has nothing to take back, clear or add to while it is empty', () => {
    show([[]]);
    for (const name of ['Undo', 'Clear', 'Another try']) expect(button(name).disabled, name).toBe(true);
  });
  it('takes back the last stroke of the chosen try alone', async () => {
    const { onTries } = show([[stroke(10)], [stroke(20), stroke(30)]], 1);
    await userEvent.click(button('Undo'));
    expect(onTries).toHaveBeenCalledWith([[stroke(10)], [stroke(20)]]);
  });
  it('clears the chosen try', async () => {
    const { onTries } = show([[stroke(10)], [stroke(20)]], 0);
    await userEvent.click(button('Clear'));
    expect(onTries).toHaveBeenCalledWith([[], [stroke(20)]]);
  });
  it('adds an empty try and goes to it; another one is a press away', async () => {
    const { onTries, onChoose } = show([[stroke(10)], [stroke(20)]], 0);
    await userEvent.click(button('Another try'));
    expect(onTries).toHaveBeenCalledWith([[stroke(10)], [stroke(20)], []]);
    expect(onChoose).toHaveBeenCalledWith(2);
    await userEvent.click(button('Try 2'));
    expect(onChoose).toHaveBeenLastCalledWith(1);
    expect(button('Try 1').getAttribute('aria-pressed')).toBe('true');
  });
  it('stops at eight tries', () => {
    show(Array.from({ length: 8 }, (_, k) => [stroke(k)]));
    expect(screen.queryByRole('button', { name: 'Another try' })).toBeNull();
  });
  it('draws what was drawn as an outline of the pen in its colour', () => {
    show([[stroke(10)]]);
    const path = screen.getByRole('img', { name: 'Sign here' }).querySelector('path');
    expect(path?.getAttribute('fill')).toBe('#1c1b1d');
    expect(path?.getAttribute('d')).toMatch(/^M[\d.-]+ [\d.-]+/);
  });
  it('sets the pen by keyboard', () => {
    const { onPen } = show([[stroke(10)]]);
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Ink width' }), { key: 'ArrowRight', keyCode: 39 });
    expect(onPen).toHaveBeenCalledWith({ ...startPen, width: startPen.width + 0.5 });
  });
});

describe('setting type', () => {
  const line = new PathBuilder().moveTo(10, 20).lineTo(110, 20).lineTo(110, 60).close().done();
  const show = (
    values: Partial<TypeValues> = {},
    found: ReturnType<typeof useTypeset> = { path: line, problem: null },
  ) => {
    set.mockReturnValue(found);
    const onChange = vi.fn();
    const all = { ...startType, ...values };
    render(
      <TypeSetter
        {...{ palette, onChange }}
        values={all}
        colour="#1c1b1d"
        brandName="Harrowmere"
        onColour={() => {}}
      />,
    );
    return { onChange, all };
  };
  it('shows the letters with room round them, in the colour asked for', () => {
    show({ text: 'Ferry' });
    const sheet = screen.getByRole('img', { name: 'The mark as it will be' });
    expect(sheet.getAttribute('viewBox')).toBe('4 14 112 52');
    expect(sheet.querySelector('path')?.getAttribute('fill')).toBe('#1c1b1d');
  });
  it('says what a typeface lacks', () => {
    show({ text: 'Ω' }, { path: null, problem: 'This typeface has no Ω.' });
    expect(screen.getByRole('alert').textContent).toBe('This typeface has no Ω.');
  });
  it('takes eight lines of eighty letters and no more', () => {
    const { onChange } = show();
    const text = Array.from({ length: 12 }, () => 'x'.repeat(100)).join('\n');
    fireEvent.change(screen.getByRole('textbox', { name: 'Text' }), { target: { value: text } });
    const lines = (onChange.mock.calls[0][0] as TypeValues).text.split('\n');
    expect([lines.length, lines[0].length]).toEqual([8, 80]);
  });
  it('adds the brand’s name after a space, and none at the start of a line', async () => {
    const { onChange, all } = show({ text: 'from' });
    await userEvent.click(screen.getByRole('button', { name: 'add the brand’s name' }));
    expect(onChange).toHaveBeenCalledWith({ ...all, text: 'from Harrowmere' });
  });
  it('changes the typeface and the spacing, told in percent', async () => {
    const { onChange, all } = show({ text: 'Ferry' });
    await userEvent.click(screen.getByRole('radio', { name: 'Caveat' }));
    expect(onChange).toHaveBeenCalledWith({ ...all, typeface: 'caveat' });
    fireEvent.change(screen.getByRole('spinbutton', { name: 'Letter spacing' }), { target: { value: '25' } });
    expect(onChange).toHaveBeenLastCalledWith({ ...all, spacing: 0.25 });
  });
});
