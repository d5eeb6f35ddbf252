import { numberField } from '../params';

/** Why a drawing ends at a cast. */
export const ENDS_PATHS = 'what fades out softly is made of pixels';

export const opacityField = (initial: number) => numberField({ label: 'Opacity', initial, min: 0, max: 1, step: 0.05 });
