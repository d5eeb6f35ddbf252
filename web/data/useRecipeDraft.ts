import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { paths } from '../../contract/paths';
import type { MarkView } from '../../contract/views';
import type { Recipe } from '../../core/recipe/recipe';
import { outlasting, send } from './http';
import { markQuery } from './queries';
import { newerState, wordsFor } from '../messages';

export interface RecipeDraft {
  /** What is on the screen: the stored recipe, or a change still under the hand. */
  readonly recipe: Recipe;
  /** Shows a change without storing it, while a control is moving. */
  preview(recipe: Recipe): void;
  /** Shows and stores a change as one step of the history. */
  commit(recipe: Recipe, why: string): void;
  undo(): void;
  redo(): void;
  /** To any revision of the history. */
  goTo(revision: number): void;
  /** Somebody else changed the mark meanwhile: what both made of it, until one is chosen. */
  readonly conflict: Conflict | null;
  settleConflict(choice: 'mine' | 'theirs'): void;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** A control is moving: what shows is not stored yet. */
  readonly isMoving: boolean;
  readonly isSaving: boolean;
  readonly problem: string | null;
  /** Resolves with the stored mark once everything under way is stored. */
  settle(): Promise<MarkView>;
}

export interface Conflict {
  readonly mine: Recipe;
  readonly why: string;
  readonly theirs: MarkView;
}

/**
 * The recipe under the hand. Changes show at once and are stored one after another, each based on the one before; the
 * server keeps the history, so undo and redo work after a reload and in another window.
 */
export function useRecipeDraft(mark: MarkView): RecipeDraft {
  const queries = useQueryClient();
  const [draft, setDraft] = useState<Recipe | null>(null);
  const [isMoving, setMoving] = useState(false);
  const [pending, setPending] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  /** What is under the hand and not stored yet, to be told of when somebody else was first. */
  const unsaved = useRef<{ recipe: Recipe; why: string } | null>(null);
  const chain = useRef<Promise<MarkView>>(Promise.resolve(mark));
  const newest = useRef(mark);
  const shown = useRef(mark);
  const disputed = useRef(false);
  // What was stored a moment ago comes back as `mark` only later: until then it stands in its place.
  const [standing, setStanding] = useState<{ stored: MarkView; instead: MarkView } | null>(null);
  const current = standing?.instead === mark ? standing.stored : mark;
  useEffect(() => {
    shown.current = mark;
    if (pending === 0) newest.current = current;
  }, [mark, current, pending]);
  const keep = useCallback(
    (stored: MarkView) => {
      newest.current = stored;
      setStanding({ stored, instead: shown.current });
      queries.setQueryData(markQuery(stored.id).queryKey, stored);
    },
    [queries],
  );

  const enqueue = useCallback(
    (step: (current: MarkView) => Promise<MarkView>) => {
      setPending((n) => n + 1);
      setProblem(null);
      chain.current = chain.current
        .catch(() => newest.current)
        .then(() => outlasting(() => step(newest.current)))
        .then((stored) => {
          keep(stored);
          return stored;
        });
      chain.current
        .catch((error: unknown) => {
          const { queryKey } = markQuery(newest.current.id);
          const current = newerState<MarkView>(error);
          const mine = unsaved.current;
          if (current && mine) {
            // Both are shown, and nothing is lost, until somebody has chosen.
            disputed.current = true;
            setConflict({ mine: mine.recipe, why: mine.why, theirs: current });
            return;
          }
          setProblem(wordsFor(error));
          setDraft(null);
          // What is still to be stored was based on the older state too, and must not write over the newer one.
          if (current) queries.setQueryData(queryKey, current);
          else return queries.refetchQueries({ queryKey });
        })
        .finally(() => {
          setPending((n) => {
            if (n === 1 && !disputed.current) {
              setDraft(null);
              unsaved.current = null;
            }
            return n - 1;
          });
          void queries.invalidateQueries({ queryKey: ['marks'] });
        });
    },
    [keep, queries],
  );

  const preview = useCallback((recipe: Recipe) => {
    setMoving(true);
    setDraft(recipe);
  }, []);
  const commit = useCallback(
    (recipe: Recipe, why: string) => {
      setMoving(false);
      // What changes nothing is no step: a control may tell of one move twice, or come back to where it was.
      const under = unsaved.current?.recipe;
      if (JSON.stringify(recipe) === JSON.stringify(under ?? newest.current.recipe)) {
        setDraft(under ?? null);
        return;
      }
      setDraft(recipe);
      unsaved.current = { recipe, why };
      enqueue((current) =>
        send<MarkView>('PUT', paths.markRecipe(current.id), { basedOn: current.revision, why, recipe }).catch(
          (error: unknown) => {
            // The same change, stored by an answer that got lost on its way.
            const other = newerState<MarkView>(error);
            if (other && JSON.stringify(other.recipe) === JSON.stringify(recipe)) return other;
            throw error;
          },
        ),
      );
    },
    [enqueue],
  );
  const settleConflict = useCallback(
    (choice: 'mine' | 'theirs') => {
      if (!conflict) return;
      const { theirs, mine, why } = conflict;
      setConflict(null);
      disputed.current = false;
      unsaved.current = null;
      chain.current = Promise.resolve(theirs);
      keep(theirs);
      if (choice === 'mine') commit(mine, why);
      else setDraft(null);
    },
    [conflict, commit, keep],
  );
  const goTo = useCallback(
    (revision: number) => {
      setMoving(false);
      setDraft(null);
      unsaved.current = null;
      enqueue((current) => send<MarkView>('POST', paths.markGoTo(current.id), { basedOn: current.revision, revision }));
    },
    [enqueue],
  );
  const step = useCallback(
    (way: 'undo' | 'redo') => {
      setMoving(false);
      setDraft(null);
      unsaved.current = null;
      enqueue((current) => send<MarkView>('POST', paths.markStep(current.id, way), { basedOn: current.revision }));
    },
    [enqueue],
  );

  return {
    recipe: draft ?? current.recipe,
    preview,
    commit,
    undo: () => step('undo'),
    redo: () => step('redo'),
    goTo,
    conflict,
    settleConflict,
    // A change that is on its way can be taken back too.
    canUndo: current.canUndo || (draft !== null && !isMoving && pending > 0),
    canRedo: current.canRedo,
    isMoving,
    isSaving: pending > 0,
    problem,
    settle: () => chain.current.then(() => newest.current),
  };
}
