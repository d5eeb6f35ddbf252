import type { TrailStage } from './Bench';
import { cropStage } from './stages/crop';
import { cutOutStage } from './stages/cutOut';
import { filesStage } from './stages/files';
import { originalStage } from './stages/original';
import { tidyStage } from './stages/tidy';
import { traceStage } from './stages/trace';
import { variantsStage } from './stages/variants';

/**
 * Every stage on the trail, in order. A stage without a screen of its own is `formStage('its id')`: see
 * stages/form.tsx.
 */
export const trail: readonly TrailStage[] = [
  originalStage,
  cropStage,
  cutOutStage,
  tidyStage,
  traceStage,
  variantsStage,
  filesStage,
];

/** Where a mark opens. */
export const FIRST_STAGE = cutOutStage.id;
