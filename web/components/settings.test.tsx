import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import {
  choiceField,
  colourField,
  flagField,
  initialValues,
  numberField,
  optionalNumberField,
  rectField,
} from '../../core/params';
import { CostChart } from './CostChart';
import { SettingsForm } from './SettingsForm';

const fields = {
  amount: numberField({ label: 'Amount', hint: 'how much of it', initial: 2, min: -5, max: 5, step: 0.1, unit: 'px' }),
  level: optionalNumberField({ label: 'Level', min: 0, max: 96, step: 1 }),
  pen: choiceField({
    label: 'Pen',
    initial: 'a',
    choices: [
      { value: 'a', label: 'Thin' },
      { value: 'b', label: 'Broad' },
    ],
  }),
  isKept: flagField({ label: 'Keep it', initial: false }),
  colour: colourField({ label: 'Colour', initial: '#6a2a5b' }),
  region: rectField({ label: 'Region' }),
};
const own = initialValues(fields);
const show = (values: Record<string, unknown> = own) => {
  const onCommit = vi.fn();
  render(<SettingsForm fields={fields} values={values} onCommit={onCommit} />);
  return onCommit;
};

describe('a form drawn from schemas', () => {
  it(
    'has a control for each setting, named and explained by its schema, and none for what ' + 'is set on the picture',
    () => {
      show();
      expect(screen.getByRole('spinbutton', { name: 'Amount' }).getAttribute('aria-valuemax')).toBe('5');
      expect(screen.getByText('how much of it')).toBeTruthy();
      expect(screen.getByRole('switch', { name: 'Keep it' })).toBeTruthy();
      expect(screen.getByRole('radiogroup', { name: 'Pen' })).toBeTruthy();
      expect(screen.getByRole('button', { name: 'Colour #6A2A5B' })).toBeTruthy();
      expect(screen.queryByText('Region')).toBeNull();
    },
  );
  it('hands on the whole of the settings with the one that changed', async () => {
    const onCommit = show();
    fireEvent.change(screen.getByRole('spinbutton', { name: 'Amount' }), { target: { value: '3.5' } });
    expect(onCommit).toHaveBeenCalledWith({ ...own, amount: 3.5 }, 'Amount');
    await userEvent.click(screen.getByRole('switch', { name: 'Keep it' }));
    expect(onCommit).toHaveBeenLastCalledWith({ ...own, isKept: true }, 'Keep it');
    await userEvent.click(screen.getByText('Broad'));
    expect(onCommit).toHaveBeenLastCalledWith({ ...own, pen: 'b' }, 'Pen');
  });
  it('lets an optional number be emptied, back to automatic', () => {
    const onCommit = show({ ...own, level: 12 });
    fireEvent.change(screen.getByRole('spinbutton', { name: 'Level' }), { target: { value: '' } });
    expect(onCommit).toHaveBeenCalledWith({ ...own, level: null }, 'Level');
  });
  it('offers the way back only where something was changed, and keeps what is no setting', async () => {
    show();
    expect(screen.queryByText('All back to automatic')).toBeNull();
    const onCommit = show({ version: 2, ...own, amount: 4 });
    await userEvent.click(screen.getByText('All back to automatic'));
    expect(onCommit).toHaveBeenCalledWith({ version: 2, ...own }, 'All back to automatic');
  });
});

describe('the chart of costs', () => {
  const chart = (value = 20) => {
    const [onPreview, onCommit] = [vi.fn(), vi.fn()];
    render(
      <CostChart
        label="Tolerance"
        value={value}
        most={96}
        steps={{ small: 1, large: 8 }}
        steady={{ from: 10, to: 30 }}
        costs={[
          { at: [0, 48, 96], share: [1, 0.2, 0], words: 'ground left' },
          { at: [0, 48, 96], share: [0, 0.1, 1], words: 'artwork lost', isLoss: true },
        ]}
        words={(v) => `${v} levels`}
        onPreview={onPreview}
        onCommit={onCommit}
      />,
    );
    const slider = screen.getByRole('slider', { name: 'Tolerance' });
    slider.getBoundingClientRect = () => ({
      left: 100,
      width: 192,
      top: 0,
      height: 52,
      right: 292,
      bottom: 52,
      x: 100,
      y: 0,
      toJSON: () => '',
    });
    return { slider, onPreview, onCommit };
  };
  it('says its value, and whether that lies in the steady range', () => {
    expect(chart().slider.getAttribute('aria-valuetext')).toBe('20 levels, in the steady range');
    cleanup();
    expect(chart(44).slider.getAttribute('aria-valuetext')).toBe('44 levels, outside the steady range');
    expect(screen.getByText('artwork lost')).toBeTruthy();
  });
  it.each([
    ['ArrowRight', 21],
    ['ArrowDown', 19],
    ['PageUp', 28],
    ['PageDown', 12],
  ])('%s sets it to %d', (key, value) => {
    const { slider, onCommit } = chart();
    fireEvent.keyDown(slider, { key });
    expect(onCommit).toHaveBeenCalledWith(value);
  });
  it('stops at its ends, and leaves other keys alone', () => {
    const { slider, onCommit } = chart(3);
    fireEvent.keyDown(slider, { key: 'PageDown' });
    expect(onCommit).toHaveBeenCalledWith(0);
    fireEvent.keyDown(slider, { key: 'a' });
    expect(onCommit).toHaveBeenCalledOnce();
  });
  it('follows the hand, and stores where it lets go', () => {
    const { slider, onPreview, onCommit } = chart();
    const at = (clientX: number) => ({ clientX, clientY: 20, pointerId: 1, buttons: 1, button: 0 });
    fireEvent.pointerDown(slider, at(148));
    expect(onPreview).toHaveBeenLastCalledWith(24);
    fireEvent.pointerMove(slider, at(196));
    expect(onPreview).toHaveBeenLastCalledWith(48);
    fireEvent.pointerUp(slider, { ...at(196), buttons: 0 });
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(48);
  });
  it('draws both costs, the steady range and the hand', () => {
    const { slider } = chart();
    expect(slider.querySelectorAll('.cost-left path, .cost-loss path').length).toBeGreaterThanOrEqual(2);
    expect(slider.querySelector('.cost-steady')).not.toBeNull();
    expect(slider.querySelector('.cost-hand')).not.toBeNull();
  });
});
