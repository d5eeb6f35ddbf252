import type { Values } from '../params';
import { defineRegistry } from '../registry';
import { crop } from './crop';
import { cutOut } from './cutOut';
import type { StageDefinition } from './stage';
import { tidy } from './tidy';
import { trace } from './trace';

/** The stages that make a master, in the order in which they run. */
const listed = [crop, cutOut, tidy, trace] as const;

type Listed = (typeof listed)[number];
export type StageId = Listed['id'];

/** Settings of all stages, by stage id, each with the version of its stage that they were written for. */
export type StageValues = { [S in Listed as S['id']]: Values<S['params']> & { readonly version: number } };

export const stages = defineRegistry<StageDefinition>('stage', ...(listed as unknown as StageDefinition[]));
export const stageIds = listed.map((s) => s.id) as readonly StageId[];
