import { defineRegistry } from '../registry';
import { crop } from './crop';
import { cutOut } from './cutOut';
import type { StageDefinition } from './stage';

/** The stages that make a master, in the order in which they run. */
export const stages = defineRegistry<StageDefinition>(
  'stage',
  crop as unknown as StageDefinition,
  cutOut as unknown as StageDefinition,
);

/** Settings of all stages, by stage id; the recipe's type is derived from here. */
export interface StageValues {
  crop: import('../params').Values<typeof crop.params>;
  cutOut: import('../params').Values<typeof cutOut.params>;
}
export type StageId = keyof StageValues;
export const stageIds: readonly StageId[] = ['crop', 'cutOut'];
