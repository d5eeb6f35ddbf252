import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { paths } from '../../../contract/paths';
import { initialRecipe } from '../../../core/recipe/recipe';
import { standardOf } from '../../../core/recipe/standardLines';
import { cardView, markView } from '../../../tests/support/webViews';
import { BulkBar } from './BulkBar';
import { type Bulk, useBulk, withVariants, withoutPlaces } from './useBulk';

let asked: { what: string; body: unknown }[];
const cards = [cardView({ id: 'a', name: 'Badge', details: 3 }), cardView({ id: 'b', name: 'Flag', revision: 9 })];
beforeEach(() => {
  asked = [];
  vi.stubGlobal('fetch', async (path: string, { method, body }: RequestInit) => {
    if (method !== 'GET') asked.push({ what: `${method} ${path}`, body: body && JSON.parse(body as string) });
    if (path === paths.mark('b') && method === 'PATCH')
      return Response.json(
        { error: { code: 'store/conflict', message: 'Changed elsewhere.', details: {} } },
        { status: 409 },
      );
    if (method === 'DELETE') return new Response(null, { status: 204 });
    return Response.json(markView({ id: path.split('/')[3] }));
  });
});
const open = () =>
  renderHook(useBulk, {
    wrapper: ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
    ),
  });

describe('many marks at once', () => {
  it('each change names what it is based on, and one that fails does not disturb the others', async () => {
    const { result } = open();
    await act(() => result.current.run(cards, { kind: 'state', state: 'finished' }));
    expect(asked).toEqual([
      { what: `PATCH ${paths.mark('a')}`, body: { basedOn: 3, state: 'finished' } },
      { what: `PATCH ${paths.mark('b')}`, body: { basedOn: 1, state: 'finished' } },
    ]);
    expect(result.current.results.map((r) => r.problem)).toEqual([null, 'Changed elsewhere.']);
    expect(result.current.progress).toBeNull();
  });
  it('goes over to another brand', async () => {
    const { result } = open();
    await act(() => result.current.run([cards[0]], { kind: 'brand', to: 'other' }));
    expect(asked).toEqual([{ what: `PATCH ${paths.mark('a')}`, body: { basedOn: 3, brandId: 'other' } }]);
  });
  it('makes files, removes, and takes the settings of another mark', async () => {
    const { result } = open();
    await act(() => result.current.run(cards, { kind: 'files' }));
    await act(() => result.current.run([cards[0]], { kind: 'remove' }));
    await act(() => result.current.run(cards, { kind: 'recipe', from: 'a' }));
    expect(asked.map((a) => a.what)).toEqual([
      // Files of all marks are one delivery.
      `POST ${paths.brandDeliveries('b1')}`,
      `DELETE ${paths.mark('a')}`,
      `PUT ${paths.markRecipe('b')}`,
    ]);
    expect(asked[0].body).toMatchObject({ marks: [{ id: 'a' }, { id: 'b', basedOn: 9 }] });
  });
  it('takes the brand’s standard lines, for the variants that a mark has', async () => {
    const { result } = open();
    const lines = [...standardOf(initialRecipe()).slice(1), { ...standardOf(initialRecipe())[0], variant: 'Gold' }];
    await act(() => result.current.run([cards[0]], { kind: 'standard', lines }));
    const { recipe } = asked[0].body as { recipe: ReturnType<typeof initialRecipe> };
    expect(recipe.files.lines.map((l) => [l.id, l.variant])).toEqual([
      ['standard-0', 'black'],
      ['standard-1', 'reversed'],
    ]);
  });
  it('settings that name places in a picture stay behind', () => {
    const [own, other] = [initialRecipe(), initialRecipe()];
    const area = { x: 1, y: 2, decision: 'open' as const };
    const from = {
      ...other,
      stages: {
        ...other.stages,
        crop: { ...other.stages.crop, turn: 9 },
        cutOut: { ...other.stages.cutOut, choke: 1, areas: [area] },
        tidy: { ...other.stages.tidy, specksBelow: 30, drop: [{ x: 4, y: 4 }] },
      },
    };
    const { stages } = withoutPlaces(from, own);
    expect([stages.crop.turn, stages.cutOut.choke, stages.tidy.specksBelow]).toEqual([0, 1, 30]);
    expect([stages.cutOut.areas, stages.tidy.drop]).toEqual([[], []]);
  });
});

describe('the bar of chosen marks', () => {
  const run = vi.fn(async () => {});
  const show = (bulk: Partial<Bulk>, chosen = cards) => {
    const onChoose = vi.fn();
    render(
      <MemoryRouter>
        <BulkBar
          all={cards}
          chosen={chosen}
          bulk={{ progress: null, results: [], run, clear: () => {}, ...bulk }}
          onChoose={onChoose}
        />
      </MemoryRouter>,
    );
    return onChoose;
  };
  it('offers other brands where there are any', async () => {
    const moved = vi.fn(async () => {});
    show({});
    expect(screen.queryByText(/Move to/)).toBeNull();
    render(
      <MemoryRouter>
        <BulkBar
          all={cards}
          chosen={cards}
          brands={[{ id: 'z', name: 'Other trust' }]}
          bulk={{ progress: null, results: [], run: moved, clear: () => {} }}
          onChoose={() => {}}
        />
      </MemoryRouter>,
    );
    await userEvent.click(screen.getByRole('button', { name: /Move to/ }));
    await userEvent.click(await screen.findByText('Other trust'));
    expect(moved).toHaveBeenCalledWith(cards, { kind: 'brand', to: 'z' });
  });
  it('asks before it removes', async () => {
    const onChoose = show({});
    expect(screen.getByText('2 marks chosen')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Remove' }));
    expect(run).not.toHaveBeenCalled();
    expect(screen.getByText('They can be brought back for 30 days.')).toBeTruthy();
    await userEvent.click(screen.getAllByRole('button', { name: 'Remove' }).at(-1) as HTMLElement);
    expect(run).toHaveBeenCalledWith(cards, { kind: 'remove' });
    await userEvent.click(screen.getByRole('button', { name: 'None' }));
    expect(onChoose).toHaveBeenLastCalledWith([]);
  });
  it('tells how far it is, and of each that could not be done why', () => {
    show({ progress: { done: 1, of: 2 } });
    expect(screen.getByText('1 of 2 done')).toBeTruthy();
    show(
      {
        results: [
          { name: 'Badge', problem: null },
          { name: 'Flag', problem: 'Changed elsewhere.' },
        ],
      },
      [],
    );
    expect(screen.getByText(/1 of 2 done\./)).toBeTruthy();
    expect(screen.getByText('Changed elsewhere.', { exact: false }).textContent).toBe('Flag. Changed elsewhere.');
  });
});

it('variants of another mark come with no line left without one', () => {
  const own = initialRecipe();
  const next = withVariants(own, { variants: [own.variants[1], { ...own.variants[2], id: 'pale', name: 'Pale' }] });
  expect(next.variants.map((v) => v.name)).toEqual(['Black', 'Pale']);
  expect(next.files.lines.map((l) => l.variant)).toEqual(['black', 'black', 'black']);
  expect(next.stages).toBe(own.stages);
});
