import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { paths } from '../../contract/paths';
import type { MarkView } from '../../contract/views';
import { type Recipe, initialRecipe } from '../../core/recipe/recipe';
import { markView } from '../../tests/support/webViews';
import { markQuery } from './queries';
import { type RecipeDraft, useRecipeDraft } from './useRecipeDraft';

interface Call {
  readonly method: string;
  readonly path: string;
  readonly body: { basedOn: number; why: string; recipe: Recipe } | undefined;
  readonly answer: (value: unknown, status?: number) => void;
}

let calls: Call[];
let queries: QueryClient;
beforeEach(() => {
  calls = [];
  queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  vi.stubGlobal(
    'fetch',
    (path: string, init: RequestInit) =>
      new Promise((resolve) => {
        const answer = (value: unknown, status = 200) => resolve(new Response(JSON.stringify(value), { status }));
        calls.push({ method: init.method as string, path, body: init.body && JSON.parse(init.body as string), answer });
      }),
  );
});

const open = (mark: MarkView, onRender?: (draft: RecipeDraft) => void) => {
  queries.setQueryData(markQuery(mark.id).queryKey, mark);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  );
  const use = ({ shown }: { shown: MarkView }) => {
    const draft = useRecipeDraft(shown);
    onRender?.(draft);
    return draft;
  };
  return renderHook(use, { wrapper, initialProps: { shown: mark } });
};
const withTolerance = (tolerance: number): Recipe => {
  const recipe = initialRecipe();
  return { ...recipe, stages: { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, tolerance } } };
};
const toleranceOf = (recipe: Recipe) => recipe.stages.cutOut.tolerance;
const stored = (revision: number, recipe: Recipe) => markView({ revision, recipe, canUndo: true });
const soon = () => act(async () => new Promise((r) => setTimeout(r, 0)));

describe('the recipe under the hand', () => {
  it('shows a change at once, stores it as one step, and counts as saving until it is stored', async () => {
    const { result } = open(markView());
    act(() => result.current.commit(withTolerance(20), 'Set the tolerance'));
    expect(toleranceOf(result.current.recipe)).toBe(20);
    expect(result.current.isSaving).toBe(true);
    await soon();
    expect(calls.map((c) => [c.method, c.path])).toEqual([['PUT', paths.markRecipe('m1')]]);
    expect(calls[0].body).toMatchObject({ basedOn: 7, why: 'Set the tolerance' });
    await act(async () => calls[0].answer(stored(8, withTolerance(20))));
    await waitFor(() => expect(result.current.isSaving).toBe(false));
    expect(queries.getQueryData<MarkView>(markQuery('m1').queryKey)?.revision).toBe(8);
  });
  it('goes on showing what was stored while the screen still has the mark before, and can take it back', async () => {
    const recipes: (number | null)[] = [];
    const { result } = open(markView({ canUndo: false }), ({ recipe }) => recipes.push(toleranceOf(recipe)));
    act(() => result.current.commit(withTolerance(20), 'Set the tolerance'));
    await soon();
    await act(async () => calls[0].answer(stored(8, withTolerance(20))));
    await waitFor(() => expect(result.current.isSaving).toBe(false));
    expect([result.current.canUndo, recipes.slice(recipes.indexOf(20))]).toEqual([
      true,
      expect.not.arrayContaining([null]),
    ]);
  });
  it('shows what a moving control would do without storing it', async () => {
    const { result } = open(markView());
    act(() => result.current.preview(withTolerance(31)));
    await soon();
    expect([toleranceOf(result.current.recipe), result.current.isMoving, calls.length]).toEqual([31, true, 0]);
    act(() => result.current.commit(withTolerance(32), 'Set the tolerance'));
    expect(result.current.isMoving).toBe(false);
  });
  it('stores changes one after another, each based on the one before', async () => {
    const { result } = open(markView());
    act(() => {
      result.current.commit(withTolerance(10), 'one');
      result.current.commit(withTolerance(11), 'two');
    });
    await soon();
    expect(calls).toHaveLength(1);
    await act(async () => calls[0].answer(stored(8, withTolerance(10))));
    await waitFor(() => expect(calls).toHaveLength(2));
    expect(calls[1].body).toMatchObject({ basedOn: 8, why: 'two' });
    expect(toleranceOf(result.current.recipe)).toBe(11);
  });
  it('goes back to what is stored when somebody else was first, and says so', async () => {
    const { result } = open(markView());
    act(() => result.current.commit(withTolerance(40), 'mine'));
    await soon();
    await act(async () =>
      calls[0].answer({ error: { code: 'store/conflict', message: 'Changed in another window.', details: {} } }, 409),
    );
    await waitFor(() => expect(result.current.problem).toBe('Changed in another window.'));
    expect(toleranceOf(result.current.recipe)).toBeNull();
  });
  it.each(['mine', 'theirs'] as const)(
    'keeps both when another window was first, until one is chosen: %s',
    async (choice) => {
      const { result, rerender } = open(markView());
      act(() => {
        result.current.commit(withTolerance(40), 'first');
        result.current.commit(withTolerance(41), 'second');
      });
      await soon();
      const newer = markView({ revision: 9, recipe: withTolerance(3) });
      const refused = { error: { code: 'store/conflict', message: 'Changed elsewhere.', details: { current: newer } } };
      await act(async () => calls[0].answer(refused, 409));
      // The second was based on the older state as well, and is not stored over the newer one.
      await waitFor(() => expect(calls).toHaveLength(2));
      expect(calls[1].body?.basedOn).toBe(7);
      await act(async () => calls[1].answer(refused, 409));
      await waitFor(() => expect(result.current.isSaving).toBe(false));
      expect(result.current.conflict).toMatchObject({ theirs: { revision: 9 }, why: 'second' });
      expect(toleranceOf(result.current.recipe)).toBe(41);

      act(() => result.current.settleConflict(choice));
      expect(result.current.conflict).toBeNull();
      expect(queries.getQueryData<MarkView>(markQuery('m1').queryKey)?.revision).toBe(9);
      rerender({ shown: newer });
      await soon();
      if (choice === 'theirs') {
        expect([toleranceOf(result.current.recipe), calls.length]).toEqual([3, 2]);
        return;
      }
      expect(calls[2].body).toMatchObject({ basedOn: 9, why: 'second' });
      await act(async () => calls[2].answer(stored(10, withTolerance(41))));
      await waitFor(() => expect(result.current.isSaving).toBe(false));
    },
  );
  it('goes to any revision of the history, from the one on the screen', async () => {
    const { result } = open(markView());
    act(() => result.current.goTo(3));
    await soon();
    expect([calls[0].path, calls[0].body]).toEqual([paths.markGoTo('m1'), { basedOn: 7, revision: 3 }]);
  });
  it('takes its own change for stored when only the answer was lost', async () => {
    const { result } = open(markView());
    act(() => result.current.commit(withTolerance(40), 'mine'));
    await soon();
    const current = markView({ revision: 8, recipe: withTolerance(40) });
    await act(async () =>
      calls[0].answer({ error: { code: 'store/conflict', message: 'Changed.', details: { current } } }, 409),
    );
    await waitFor(() => expect(result.current.isSaving).toBe(false));
    expect(result.current.problem).toBeNull();
  });
  it('waits while the database is away and goes on by itself', async () => {
    const { result } = open(markView());
    act(() => result.current.commit(withTolerance(40), 'mine'));
    await soon();
    await act(async () =>
      calls[0].answer({ error: { code: 'store/unavailable', message: 'Away.', details: {} } }, 503),
    );
    expect([toleranceOf(result.current.recipe), result.current.problem]).toEqual([40, null]);
    await waitFor(() => expect(calls).toHaveLength(2));
    await act(async () => calls[1].answer(stored(8, withTolerance(40))));
    await waitFor(() => expect(result.current.isSaving).toBe(false));
  });
  it('goes on after a failed step, based on what is stored', async () => {
    const { result } = open(markView());
    act(() => result.current.commit(withTolerance(40), 'lost'));
    await soon();
    await act(async () => calls[0].answer({ error: null }, 500));
    await waitFor(() => expect(result.current.problem).not.toBeNull());
    act(() => result.current.commit(withTolerance(41), 'again'));
    await waitFor(() => expect(calls.filter((c) => c.method === 'PUT')).toHaveLength(2));
    expect(calls.filter((c) => c.method === 'PUT')[1].body).toMatchObject({ basedOn: 7, why: 'again' });
    expect(result.current.problem).toBeNull();
  });
  it('undoes and redoes on the server, where the history is', async () => {
    const { result } = open(markView({ canUndo: true, canRedo: true }));
    act(() => result.current.undo());
    await soon();
    expect([calls[0].method, calls[0].path]).toEqual(['POST', paths.markStep('m1', 'undo')]);
    expect(calls[0].body).toEqual({ basedOn: 7 });
    await act(async () => calls[0].answer(markView({ revision: 6 })));
    act(() => result.current.redo());
    await waitFor(() => expect(calls.map((c) => c.path)).toContain(paths.markStep('m1', 'redo')));
  });
  it('takes the next step from what was stored, though the screen still shows the mark before', async () => {
    const { result } = open(markView({ canUndo: true }));
    act(() => result.current.undo());
    await soon();
    await act(async () => calls[0].answer(markView({ revision: 6, canUndo: true })));
    await waitFor(() => expect(result.current.isSaving).toBe(false));
    act(() => result.current.undo());
    await waitFor(() => expect(calls).toHaveLength(2));
    expect(calls[1].body).toEqual({ basedOn: 6 });
  });
  it('settles with the stored mark once all that is under way is stored', async () => {
    const { result } = open(markView());
    act(() => result.current.commit(withTolerance(12), 'one'));
    let settled: MarkView | null = null;
    void result.current.settle().then((mark) => (settled = mark));
    await soon();
    expect(settled).toBeNull();
    await act(async () => calls[0].answer(stored(9, withTolerance(12))));
    await waitFor(() => expect(settled?.revision).toBe(9));
  });
  it('follows the mark when another window changed it', () => {
    const { result, rerender } = open(markView());
    rerender({ shown: markView({ revision: 12, recipe: withTolerance(55) }) });
    expect(toleranceOf(result.current.recipe)).toBe(55);
  });
});
