import { type CaptureOptions, plainCapture } from './simulateCapture';

/** What a person chooses of a simulated photograph. */
export interface CaptureChoice {
  readonly paper: 'white' | 'cream' | 'grey' | 'envelope';
  readonly lines: 'none' | 'ruled' | 'squared';
  readonly light: 'even' | 'lamp' | 'shadow' | 'flash';
  /** Clockwise, degrees. */
  readonly tiltDeg: number;
  /** Deviation of camera noise, code values. */
  readonly noise: number;
  /** Deviation of the blur, px. */
  readonly blurPx: number;
  readonly quality: number;
  readonly hasPlace: boolean;
  readonly widthPx: number;
}

const papers = {
  white: { paper: [250, 249, 246], texture: 1 },
  cream: { paper: [243, 234, 212], texture: 6 },
  grey: { paper: [226, 227, 229], texture: 3 },
  envelope: { paper: [205, 178, 138], texture: 9 },
} as const;

/** The photograph's options for a choice. @param seed  so that the same choice twice is not the same picture */
export function captureFromChoice(choice: CaptureChoice, seed: number): CaptureOptions {
  const { widthPx } = choice;
  const lights = {
    even: { falloff: 0.05 },
    lamp: { falloff: 0.42, lightColour: [1, 0.965, 0.9] as const },
    shadow: { falloff: 0.15, shadow: 0.32, shadowEdgePx: widthPx * 0.02 },
    flash: { falloff: 0.25, flash: 0.3 },
  };
  return {
    ...plainCapture,
    ...papers[choice.paper],
    ...lights[choice.light],
    seed,
    lines: choice.lines,
    lineSpacingPx: widthPx * 0.04,
    lineWidthPx: Math.max(1, widthPx * 0.0014),
    lineAngleDeg: choice.tiltDeg * 0.25,
    noise: choice.noise,
    blurPx: choice.blurPx,
  };
}
