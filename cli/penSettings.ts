import { PEN, penField } from '../core/fills/penField';
import type { Recipe } from '../core/recipe/recipe';

/** How ink shows in the master's own colours. */
export const penSettings = { [PEN]: penField('pressure') };

const isMaster = ({ fill }: Recipe['variants'][number]) => fill.id === 'asIs';

/** The recipe with that choice in its variants of the master's own colours. */
export const withPen = (recipe: Recipe, pen: unknown): Recipe => ({
  ...recipe,
  variants: recipe.variants.map((v) =>
    isMaster(v) ? { ...v, fill: { ...v.fill, params: { ...v.fill.params, [PEN]: pen } } } : v,
  ),
});

/** Whether a recipe shows ink solid in the master's own colours. */
export const isSolid = ({ variants }: Recipe): boolean => variants.find(isMaster)?.fill.params[PEN] === 'solid';
