import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { casts } from '../../../core/casts';
import { fills } from '../../../core/fills';
import { initialRecipe, partOf } from '../../../core/recipe/recipe';
import type { VariantDone } from '../../../worker/protocol';
import type { Engine } from '../../data/useEngine';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import { VariantsStage } from './VariantsStage';
import { bestVariant, isWeakEverywhere } from './bestOn';
import { withNames } from './withNames';

const grounds = [
  { id: 'white', name: 'White', hex: '#ffffff', url: null },
  { id: 'black', name: 'Black', hex: '#000000', url: null },
];
const standing = (ratio: number) => ({ ratio, shareAbove3: ratio >= 3 ? 1 : 0, worst: null });
const done = (id: string, white: number, black: number): VariantDone => ({
  ...{ id, bitmap: null, width: 100, height: 80 },
  contrast: { white: standing(white), black: standing(black) },
});
const all = [done('colour', 8, 2.6), { ...done('black', 21, 1), hasLightInsides: true }, done('reversed', 1, 21)];

function show(change: (recipe: ReturnType<typeof initialRecipe>) => ReturnType<typeof initialRecipe> = (r) => r) {
  const draft = { recipe: change(initialRecipe()), commit: vi.fn(), preview: vi.fn(), problem: null };
  const strokes = { medianPx: 12, thinnestPx: 3, gapPx: 2, place: { x: 0, y: 0 } };
  const engine = {
    ...{
      fast: { askLatest: async () => all, ask: async () => ['#1f5a45', '#ffffff'] },
      whole: {
        askLatest: async () => all,
        ask: async ({ type }: { type: string }) => (type === 'colours' ? ['#1f5a45', '#ffffff'] : strokes),
      },
      full: null,
    },
    quick: { shown: { exactExtents: { x: 0, y: 0, width: 400, height: 200 } }, master: null },
  } as unknown as Engine;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <VariantsStage
        markId="m1"
        name="Trust badge"
        draft={draft as unknown as RecipeDraft}
        engine={engine}
        grounds={grounds}
        palette={[{ name: 'Canal green', hex: '#1f5a45' }]}
        onStartSet={() => {}}
      />
    </QueryClientProvider>,
  );
  return draft;
}

describe('the variants', () => {
  it('show one large with its numbers, and the others as a strip to choose from', async () => {
    show();
    expect((await screen.findAllByText('8.0 : 1')).length).toBeGreaterThan(0);
    await userEvent.click(screen.getByRole('button', { name: 'Open Reversed' }));
    expect(screen.getByRole('complementary', { name: 'Reversed' })).toBeTruthy();
    expect(within(screen.getByRole('list', { name: 'Contrast on grounds' })).getByText('1.0 : 1, lost')).toBeTruthy();
  });
  it('ask what becomes of light areas inside a mark of one colour', async () => {
    const draft = show();
    await userEvent.click(await screen.findByRole('button', { name: 'Open Black' }));
    expect(screen.getByText(/left open, as gaps/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Fill them' }));
    expect(draft.commit.mock.calls[0][0].variants[1].fill.params).toMatchObject({ insides: 'filled' });
    expect(screen.getByText('Narrowest gap')).toBeTruthy();
  });
  it('stand in one table with every ground, which says what to use where', async () => {
    show();
    await userEvent.click(screen.getByText('On every ground'));
    expect(await screen.findByRole('button', { name: 'Black on White: 21.0 : 1, reads best' })).toBeTruthy();
    const foot = screen.getByRole('rowheader', { name: 'Use here' }).closest('tr') as HTMLElement;
    expect(
      within(foot)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['Black', 'Reversed']);
    await userEvent.click(screen.getByRole('button', { name: /^Colour on Black/ }));
    expect(screen.getByRole('complementary', { name: 'Colour' })).toBeTruthy();
  });
  it('are added beside the one that is open, copied, made the first', async () => {
    const draft = show();
    await userEvent.click(screen.getByRole('button', { name: 'Add a variant' }));
    const names = (k: number) => draft.commit.mock.calls[k][0].variants.map((v: { name: string }) => v.name);
    expect(names(0)).toEqual(['Colour', 'Variant 4', 'Black', 'Reversed']);
    await userEvent.click(screen.getByRole('button', { name: 'Open Black' }));
    await userEvent.click(screen.getByRole('button', { name: 'Copy it' }));
    expect(names(1)).toEqual(['Colour', 'Black', 'Black 2', 'Reversed']);
    await userEvent.click(screen.getByRole('button', { name: 'Open Black' }));
    await userEvent.click(screen.getByRole('button', { name: 'Make it the first' }));
    expect(names(2)).toEqual(['Black', 'Colour', 'Reversed']);
  });
  it('list the colours of the mark, to be changed one by one', async () => {
    const draft = show((r) => ({
      ...r,
      variants: [
        { ...r.variants[0], fill: partOf(fills, 'byColour', { pairs: [{ from: '#ffffff', clear: true }] }) },
        ...r.variants.slice(1),
      ],
    }));
    await userEvent.click(screen.getByRole('button', { name: 'List the mark’s colours' }));
    await waitFor(() => expect(draft.commit).toHaveBeenCalled());
    expect(draft.commit.mock.calls[0][0].variants[0].fill.params.pairs).toEqual([
      { from: '#ffffff', clear: true },
      { from: '#1f5a45', to: '#1f5a45' },
    ]);
  });
  it('tell how thin their lines are, and from which size on that is enough', async () => {
    show();
    expect(await screen.findByText('3.0 px, fine from 200 px or 12 mm wide on')).toBeTruthy();
  });
  it('get a rim or a shadow by a press, and say where paths end', async () => {
    const draft = show();
    await userEvent.click(screen.getByRole('button', { name: 'rim' }));
    expect(draft.commit.mock.calls[0][0].variants[0].surrounds[0]).toMatchObject({ id: 'rim' });
    cleanup();
    show((r) => ({ ...r, variants: [{ ...r.variants[0], casts: [partOf(casts, 'shadow')] }, ...r.variants.slice(1)] }));
    expect(screen.getByText(/For PNG alone: shadow ends the paths/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take the shadow off' }));
  });
});

describe('what to use where', () => {
  const variants = initialRecipe().variants;
  const shown = new Map(all.map((d) => [d.id, d]));
  it('is the variant that stands out most, and none where none does', () => {
    expect(grounds.map((g) => bestVariant(variants, shown, g))).toEqual(['black', 'reversed']);
    const faint = new Map([['colour', done('colour', 2, 2)]]);
    expect(bestVariant(variants, faint, grounds[0])).toBeNull();
    expect(bestVariant(variants, new Map(), grounds[0])).toBeNull();
  });
  it('warns of a variant that is weak on every ground', () => {
    expect(isWeakEverywhere(done('x', 2, 2.9), grounds)).toBe(true);
    expect(isWeakEverywhere(done('x', 2, 3.1), grounds)).toBe(false);
    expect(isWeakEverywhere(null, grounds)).toBe(false);
  });
  it('is told with the names that colours have', () => {
    const palette = [{ name: 'Canal green', hex: '#1F5A45' }];
    expect(withNames('in one colour, #1f5a45, on #ffffff and #123456', palette)).toBe(
      'in one colour, canal green, on white and #123456',
    );
  });
});
