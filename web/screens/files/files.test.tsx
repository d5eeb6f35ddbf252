import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { completeReceipt } from '../../../core/formats/receipt';
import { fileFindings } from '../../../core/recipe/fileFindings';
import { type SizeLine, initialRecipe } from '../../../core/recipe/recipe';
import { standardOf } from '../../../core/recipe/standardLines';
import type { VariantDone } from '../../../worker/protocol';
import { AddLines } from './AddLines';
import { LinePanel } from './LinePanel';
import { LineTable } from './LineTable';
import { Receipt } from './Receipt';
import { StandardSet } from './StandardSet';
import { multiplesOf } from './multiples';
import { planLines } from './planLines';

const following = initialRecipe();
/** Sizes that somebody typed. */
const typedLines = following.files.lines.map(({ fitted: _, ...line }) => line);
const recipe = { ...following, files: { ...following.files, lines: typedLines } };
const planned = planLines(
  recipe,
  { brand: 'H', mark: 'Badge', date: '2026-03-31', version: 7 },
  { exactExtents: { x: 0, y: 0, width: 400, height: 100 }, hasPaths: false, outlineExtents: null },
);

const shownVariants = new Map<string, VariantDone>();
const grounds = [{ id: 'white', name: 'White', hex: '#ffffff', url: null }];
const facts = { alphaRange: [0, 255] as const, extents: null, cornersClear: true, colours: [], clearShare: 0.5 };
const page = {
  bitmap: null,
  width: 1200,
  height: 300,
  extents: { width: 400, height: 100 },
  facts,
  paths: null,
  bytes: 18_400,
  keyClash: null,
};

describe('the table of size lines', () => {
  const table = (chosen = 0) => {
    const [onChange, onRemove, onChoose] = [vi.fn(), vi.fn(), vi.fn()];
    render(
      <LineTable
        planned={planned}
        variants={recipe.variants}
        shown={shownVariants}
        grounds={grounds}
        pages={new Map([[planned[0].line.id, page]])}
        findings={new Map([[planned[0].line.id, findingsOf(planned[0])]])}
        chosen={planned[chosen].line.id}
        onChoose={onChoose}
        onChange={onChange}
        onRemove={onRemove}
        onOrder={() => {}}
      />,
    );
    return { onChange, onRemove, onChoose };
  };
  const row = (k: number) => screen.getAllByRole('row')[k + 1];
  it('has a row for every file, with its size in words, its name, its bytes and what was found', () => {
    table();
    expect(screen.getAllByRole('row')).toHaveLength(4);
    expect(row(0).textContent).toContain('1200 px wide');
    expect(within(row(0)).getByRole<HTMLInputElement>('textbox').value).toBe('badge-colour-1200.png');
    expect(row(0).textContent).toContain('~ 18.4 kB');
    expect(row(0).textContent).toContain('enlarged 3.0 times');
    expect(row(0).getAttribute('aria-selected')).toBe('true');
  });
  it('is gone through by the arrow keys, and chosen by a press', async () => {
    const { onChoose } = table();
    fireEvent.keyDown(row(0), { key: 'ArrowDown' });
    expect(onChoose).toHaveBeenLastCalledWith(planned[1].line.id);
    await userEvent.click(row(2));
    expect(onChoose).toHaveBeenLastCalledWith(planned[2].line.id);
  });
  it('takes a name that a receiver dictates, and follows the pattern again without one', async () => {
    const { onChange } = table();
    const field = within(row(1)).getByRole('textbox', { name: 'Name of the file' });
    await userEvent.clear(field);
    await userEvent.type(field, 'TITLE.PNG{Enter}');
    expect(onChange).toHaveBeenLastCalledWith({ ...recipe.files.lines[1], name: 'TITLE.PNG' });
    await userEvent.clear(field);
    fireEvent.blur(field);
    expect(onChange).toHaveBeenLastCalledWith(recipe.files.lines[1]);
  });
  it('offers every format that there is', async () => {
    const { onChange } = table();
    await userEvent.click(within(row(0)).getByRole('combobox', { name: 'Format' }));
    await userEvent.click(await screen.findByText('PDF'));
    expect(onChange.mock.calls[0][0].format).toEqual({
      id: 'pdf',
      params: { spot: '', bleedMm: 0, cropMarks: false, embed: false },
    });
  });
  it('removes a line, and has a handle to order each', async () => {
    const { onRemove } = table();
    await userEvent.click(screen.getByRole('button', { name: 'Remove badge-black-1200.png' }));
    expect(onRemove).toHaveBeenCalledWith(recipe.files.lines[1]);
    expect(screen.getAllByRole('button', { name: 'Move this line' })).toHaveLength(3);
  });
});

const findingsOf = ({ line, layout }: (typeof planned)[number]) =>
  layout
    ? fileFindings({ line, layout, mark: { width: 400, height: 100 }, thin: null, page: null, keyClash: null })
    : [];

describe('the chosen line', () => {
  const panel = (line = planned[0]) => {
    const acts = { onChange: vi.fn(), onMultiples: vi.fn(), onCopy: vi.fn(), onKeepPurpose: vi.fn() };
    render(
      <LinePanel
        row={line}
        page={page}
        thinnest={{ width: 0.01, x: 0.5, y: 0.25 }}
        findings={findingsOf(line)}
        live={null}
        grounds={grounds}
        {...acts}
      />,
    );
    return acts;
  };
  it('tells its page and its thinnest line, and mends what was found in one press', async () => {
    const { onChange } = panel();
    expect(screen.getByText('1200 × 300 px')).toBeTruthy();
    expect(screen.getByText('12.0 px')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'As large as the original allows' }));
    expect(onChange.mock.calls[0][0].fitted).toBe(true);
  });
  it('changes every setting of its size, and keeps what two sizes share', async () => {
    const { onChange } = panel();
    fireEvent.change(screen.getByRole('spinbutton', { name: 'Width' }), { target: { value: '300' } });
    expect(onChange.mock.calls[0][0].size).toEqual({ id: 'width', params: { widthPx: 300, paddingPct: 0 } });
    await userEvent.click(screen.getByRole('combobox', { name: 'Size' }));
    await userEvent.click(await screen.findByText('Exact box'));
    expect(onChange.mock.calls[1][0].size.params).toMatchObject({ widthPx: 1200, heightPx: 512 });
  });
  it('a purpose brings its own size, format and settings', async () => {
    const { onChange } = panel();
    await userEvent.click(screen.getByRole('combobox', { name: 'Purpose' }));
    await userEvent.click(await screen.findByText('Mask pair'));
    expect(onChange.mock.calls[0][0]).toMatchObject({
      ...{ variant: 'colour', purpose: 'maskPair', purposeParams: { polarity: 'white' } },
      format: { id: 'tiff', params: { compression: 'none' } },
    });
  });
  it('is measured on paper in the unit that a person thinks in', async () => {
    const size = { id: 'physical', params: { widthMm: 50.8, ppi: 300, edge: 'page', paddingPct: 0 } };
    const { onChange } = panel({ ...planned[0], size, line: { ...planned[0].line, size } });
    await userEvent.click(screen.getByRole('combobox', { name: 'Unit' }));
    await userEvent.click(await screen.findByText('in'));
    const field = screen.getByRole<HTMLInputElement>('spinbutton', { name: 'Width' });
    expect(Number(field.value)).toBe(2);
    fireEvent.change(field, { target: { value: '3' } });
    expect(onChange.mock.calls[0][0].size.params.widthMm).toBe(76.2);
    localStorage.removeItem('tassel-length-unit');
  });
  it('is kept as a purpose under a name', async () => {
    const { onKeepPurpose } = panel();
    await userEvent.click(screen.getByRole('button', { name: 'Keep as a purpose' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Name of the purpose' }), 'Newsletter{Enter}');
    const { purpose, size, format } = recipe.files.lines[0];
    expect(onKeepPurpose.mock.calls[0][0]).toMatchObject({ title: 'Newsletter', purpose, size, format });
  });
});

describe('many lines at once', () => {
  it('come for the variants that were chosen, by a purpose of the brand’s own too', async () => {
    const onMany = vi.fn();
    const own = { title: 'Newsletter', purpose: 'web', size: planned[0].line.size, format: planned[0].line.format };
    render(<AddLines variants={recipe.variants} ownPurposes={[own]} onLine={() => {}} onMany={onMany} />);
    await userEvent.click(screen.getByRole('button', { name: 'stamp' }));
    expect(onMany.mock.calls[0][0].map((l: SizeLine) => [l.variant, l.purpose])).toEqual([
      ...[
        ['colour', 'stamp'],
        ['black', 'stamp'],
        ['reversed', 'stamp'],
      ],
    ]);
    // Nobody typed their size, so that it follows the mark.
    expect(onMany.mock.calls[0][0].every((l: SizeLine) => l.fitted)).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'key colour' }));
    expect(onMany.mock.calls[1][0][0].size.params).toMatchObject({ widthPx: 1920, markPct: 50 });
    await userEvent.click(screen.getByRole('combobox', { name: 'Variants to add lines for' }));
    await userEvent.click(await screen.findByText('Black'));
    await userEvent.click(screen.getByRole('button', { name: 'Newsletter' }));
    expect(onMany.mock.calls[2][0]).toHaveLength(1);
    expect(onMany.mock.calls[2][0][0]).toMatchObject({ variant: 'black', size: own.size });
  });
  it('at two and three times its size, on paper at a finer resolution', () => {
    const [two, three] = multiplesOf({ ...planned[0].line, name: 'logo.png' }, (k) => `m${k}`);
    expect([two.size.params.widthPx, three.size.params.widthPx, two.name]).toEqual([2400, 3600, 'logo@2x.png']);
    const size = { id: 'physical', params: { widthMm: 50, ppi: 150 } };
    expect(multiplesOf({ ...planned[0].line, size }, String)[0].size.params).toEqual({ widthMm: 50, ppi: 300 });
  });
});

it('a size that nobody typed is told as it will be, once what stands round the variant is measured', () => {
  const names = { brand: 'H', mark: 'Badge', date: '2026-03-31', version: 7 };
  const master = { exactExtents: { x: 0, y: 0, width: 400, height: 100 }, hasPaths: false, outlineExtents: null };
  const rim = { id: 'rim', params: {} };
  const rimmed = { ...following, variants: following.variants.map((v) => ({ ...v, surrounds: [rim] })) };
  expect(planLines(following, names, master)[0]).toMatchObject({ name: 'badge-colour-400.png', isPending: false });
  expect(planLines(rimmed, names, master)[0]).toMatchObject({ name: '', problem: null, isPending: true });
  const drawn = new Map([[following.files.lines[0].id, { extents: { width: 420, height: 120 } }]]);
  expect(planLines(rimmed, names, master, null, drawn)[0].name).toBe('badge-colour-420.png');
});

it('the standard set is taken, or set, in one press', async () => {
  const [onUse, onKeep] = [vi.fn(), vi.fn()];
  const { rerender } = render(<StandardSet lines={null} onUse={onUse} onKeep={onKeep} />);
  await userEvent.click(screen.getByRole('button', { name: 'set from these' }));
  expect(onKeep).toHaveBeenCalledOnce();
  rerender(<StandardSet lines={standardOf(recipe)} onUse={onUse} onKeep={onKeep} />);
  await userEvent.click(screen.getByRole('button', { name: 'use its 3 lines' }));
  expect(onUse).toHaveBeenCalledOnce();
});

describe('the receipt', () => {
  const file = (name: string, position: number, receipt: object) => ({
    ...{ name, position, variant: 'Colour', purpose: 'web' },
    receipt: completeReceipt(receipt),
  });
  it('tells of pixels what a picture has, and of paths what a drawing has, and hands over each file alone', () => {
    const pixels = { width: 300, height: 200, bytes: 2048, ppi: 300, enlargement: 1.5, alphaRange: [0, 255] };
    const paths = { format: 'pdf', width: 226.772, height: 40.2, unit: 'pt', paths: 1, pictures: 0, bytes: 200_000 };
    render(<Receipt id="d1" files={[file('a.png', 0, pixels), file('a.pdf', 1, paths)]} />);
    expect(screen.getByText(/300 × 200 px/).textContent).toBe(
      '300 × 200 px · 2.0 kB · 300 ppi · alpha 0 to 255 · sRGB · enlarged 1.5 times',
    );
    expect(screen.getByText(/226.77 × 40.2 pt/).textContent).toBe(
      '226.77 × 40.2 pt · 200 kB · transparent · 1 path, no picture',
    );
    expect(screen.getByRole('link', { name: 'a.pdf' }).getAttribute('href')).toBe('/api/deliveries/d1/files/1');
  });
});
