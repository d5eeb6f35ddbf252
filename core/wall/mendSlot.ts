import type { Recipe } from '../recipe/recipe';
import type { WallProblem } from './auditLogo';

/** What one press does to a slot so that what is wrong with it goes. */
export interface SlotMend {
  /** The mark in place of the file: of its newest original, cut out, and without margins. */
  readonly showsMark: boolean;
  /** Back into its own proportions; null where they stay. */
  readonly squeeze: number | null;
  /** Another variant; null where it stays. */
  readonly variant: string | null;
  /** One of several copies goes. */
  readonly isRemoved: boolean;
  /** A new recipe of the mark, and what was done, in words; null where it stays. */
  readonly recipe: { readonly recipe: Recipe; readonly why: string } | null;
}

export interface MendableSlot {
  readonly problems: readonly (WallProblem | 'older' | 'gone')[];
  readonly stretch: number;
  readonly best: string | null;
  /** The ground that its edges still hold. */
  readonly oldGround: string | null;
}

/** How one press mends a slot. @param recipe  the mark's own */
export function mendSlot({ problems, stretch, best, oldGround }: MendableSlot, recipe: Recipe): SlotMend {
  const has = (p: (typeof problems)[number]) => problems.includes(p);
  return {
    showsMark: (['white-box', 'fringe', 'margins', 'enlarged', 'stretched', 'older', 'lost'] as const).some(has),
    squeeze: has('stretched') ? clamp(Math.round(stretch * 100) / 100) : null,
    variant: has('lost') ? best : null,
    isRemoved: has('duplicate') || has('gone'),
    recipe: mendedRecipe(has('fringe') ? oldGround : null, has('enlarged'), recipe),
  };
}

/** The limits of what a slot may be squeezed by. */
const MOST_SQUEEZE = 10;
const clamp = (v: number) => Math.min(MOST_SQUEEZE, Math.max(1 / MOST_SQUEEZE, v));

function mendedRecipe(oldGround: string | null, isEnlarged: boolean, recipe: Recipe): SlotMend['recipe'] {
  const { cutOut, trace } = recipe.stages;
  const done: string[] = [];
  const stages = { ...recipe.stages };
  if (oldGround && cutOut.way === 'keep' && cutOut.oldGround.length === 0) {
    stages.cutOut = { ...cutOut, oldGround: [oldGround] };
    done.push(`Take the ${oldGround === '#000000' ? 'black' : 'white'} out of the edges`);
  }
  if (isEnlarged && trace.use !== 'all') {
    stages.trace = { ...trace, use: 'all' };
    done.push('Trace it, to be sharp at any size');
  }
  return done.length === 0 ? null : { recipe: { ...recipe, stages }, why: done.join('; ') };
}
