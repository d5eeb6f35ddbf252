import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { completeReceipt } from '../../../core/formats/receipt';
import { initialRecipe } from '../../../core/recipe/recipe';
import { LineTable } from './LineTable';
import { Receipt } from './Receipt';
import { planLines } from './planLines';

const recipe = initialRecipe();
const planned = planLines(
  recipe,
  { brand: 'H', mark: 'Badge', date: '2026-03-31', version: 7 },
  { exactExtents: { x: 0, y: 0, width: 400, height: 100 }, hasPaths: false, outlineExtents: null },
);

describe('the table of size lines', () => {
  const table = () => {
    const [onChange, onRemove] = [vi.fn(), vi.fn()];
    render(
      <LineTable
        planned={planned}
        variants={recipe.variants}
        onChange={onChange}
        onRemove={onRemove}
        onOrder={() => {}}
      />,
    );
    return { onChange, onRemove };
  };
  const row = (k: number) => screen.getAllByRole('row')[k + 1];
  it('has a row for every file, with its name, its page and how much it is enlarged', () => {
    table();
    expect(screen.getAllByRole('row')).toHaveLength(4);
    expect(row(0).textContent).toContain('badge-colour-1200.png');
    expect(row(0).textContent).toContain('1200 × 300 px');
    expect(row(0).textContent).toContain('enlarged 3.0 times');
  });
  it('changes a size where it stands', () => {
    const { onChange } = table();
    fireEvent.change(within(row(1)).getByRole('spinbutton', { name: 'Width' }), { target: { value: '300' } });
    expect(onChange).toHaveBeenCalledWith({
      ...recipe.files.lines[1],
      size: { id: 'width', params: { widthPx: 300, paddingPct: 0 } },
    });
  });
  it('offers every size and format that there is, and keeps what two sizes share', async () => {
    const { onChange } = table();
    await userEvent.click(within(row(0)).getByRole('combobox', { name: 'Size' }));
    await userEvent.click(await screen.findByText('Exact box'));
    expect(onChange.mock.calls[0][0].size).toEqual({
      id: 'box',
      params: { widthPx: 1200, heightPx: 512, paddingPct: 0, align: 'centre' },
    });
    await userEvent.click(within(row(0)).getByRole('combobox', { name: 'Format' }));
    await userEvent.click(await screen.findByText('PDF'));
    expect(onChange.mock.calls[1][0].format).toEqual({
      id: 'pdf',
      params: { spot: '', bleedMm: 0, cropMarks: false, embed: false },
    });
  });
  it('a purpose brings its own size', async () => {
    const { onChange } = table();
    await userEvent.click(within(row(0)).getByRole('combobox', { name: 'Purpose' }));
    await userEvent.click(await screen.findByText('Icon'));
    expect(onChange.mock.calls[0][0]).toMatchObject({
      variant: 'colour',
      purpose: 'icon',
      size: { id: 'box', params: { widthPx: 512 } },
    });
  });
  it('removes a line, and has a handle to order each', async () => {
    const { onRemove } = table();
    await userEvent.click(screen.getByRole('button', { name: 'Remove badge-black-1200.png' }));
    expect(onRemove).toHaveBeenCalledWith(recipe.files.lines[1]);
    expect(screen.getAllByRole('button', { name: 'Move this line' })).toHaveLength(3);
  });
});

describe('the receipt', () => {
  const file = (name: string, receipt: object) => ({
    position: 0,
    name,
    variant: 'Colour',
    purpose: 'web',
    receipt: completeReceipt(receipt),
  });
  it('tells of pixels what a picture has, and of paths what a drawing has', () => {
    render(
      <Receipt
        files={[
          file('a.png', { width: 300, height: 200, bytes: 2048, clearShare: 0.25, ppi: 300, enlargement: 1.5 }),
          file('a.pdf', {
            format: 'pdf',
            width: 226.772,
            height: 40.2,
            unit: 'pt',
            paths: 1,
            pictures: 0,
            bytes: 200_000,
          }),
        ]}
      />,
    );
    expect(screen.getByText(/300 × 200 px/).textContent).toBe(
      '300 × 200 px · 2.0 kB · 300 ppi · 25 % clear · enlarged 1.5 times',
    );
    expect(screen.getByText(/226.77 × 40.2 pt/).textContent).toBe('226.77 × 40.2 pt · 195 kB · 1 path, no picture');
  });
});
