import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { partOf, variantOf } from '../../../core/recipe/recipe';
import { casts } from '../../../core/casts';
import { fills } from '../../../core/fills';
import { surrounds } from '../../../core/surrounds';
import { VariantSentence } from './VariantSentence';

const black = variantOf('black', 'Black', partOf(fills, 'oneColour', { colour: '#000000' }));

describe('a variant as a sentence', () => {
  const show = (variant = black) => {
    const onChange = vi.fn();
    render(<VariantSentence variant={variant} palette={[]} onChange={onChange} />);
    return onChange;
  };
  it('has a control for each part and for each of its settings', () => {
    show();
    expect(screen.getByRole('combobox', { name: 'Fill' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Colour #000000' })).toBeTruthy();
    expect(screen.getByRole('combobox', { name: 'Inner light areas' })).toBeTruthy();
  });
  it('lets ink on paper be solid or keep its pressure, and asks no other mark for it', async () => {
    const onChange = vi.fn();
    const { rerender } = render(<VariantSentence variant={black} palette={[]} onChange={onChange} />);
    expect(screen.queryByRole('combobox', { name: 'Ink' })).toBeNull();
    rerender(<VariantSentence variant={black} palette={[]} hasInk onChange={onChange} />);
    await userEvent.click(screen.getByRole('combobox', { name: 'Ink' }));
    await userEvent.click(await screen.findByText('pressure kept'));
    expect(onChange.mock.calls[0][0].fill.params.pen).toBe('pressure');
  });
  it('changes a setting, and keeps the others', async () => {
    const onChange = show();
    await userEvent.click(screen.getByRole('combobox', { name: 'Inner light areas' }));
    await userEvent.click(await screen.findByText('filled'));
    expect(onChange).toHaveBeenCalledWith(
      { ...black, fill: { id: 'oneColour', params: { colour: '#000000', insides: 'filled', pen: 'solid' } } },
      'Change Black',
      true,
    );
  });
  it('another fill starts with its own settings', async () => {
    const onChange = show();
    await userEvent.click(screen.getByRole('combobox', { name: 'Fill' }));
    await userEvent.click(await screen.findByText('as it is'));
    expect(onChange.mock.calls[0][0].fill).toEqual(partOf(fills, 'asIs'));
  });
  it('offers every surround and cast, and takes one off again', async () => {
    const onChange = show();
    for (const d of [...surrounds.all, ...casts.all])
      expect(screen.getByRole('button', { name: d.title.toLowerCase() })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'plate' }));
    const [plated] = onChange.mock.calls[0];
    expect(plated.surrounds).toEqual([partOf(surrounds, 'plate')]);
    const again = show({ ...plated, surrounds: [partOf(surrounds, 'rim'), ...plated.surrounds] });
    await userEvent.click(screen.getByRole('button', { name: 'Move inwards' }));
    expect(again.mock.calls[0][0].surrounds.map((p: { id: string }) => p.id)).toEqual(['plate', 'rim']);
    await userEvent.click(screen.getByRole('button', { name: 'Take the plate off' }));
    expect(again.mock.calls[1][0].surrounds.map((p: { id: string }) => p.id)).toEqual(['rim']);
  });
});
