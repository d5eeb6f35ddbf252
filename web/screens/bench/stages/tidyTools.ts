import type { BrushEdit } from '../../../../core/tidy/edits';

/** What the hand does on the picture in Tidy: by brush, or by an outline drawn round something. */
export interface TidyTool {
  readonly id: string;
  readonly label: string;
  readonly way: 'brush' | 'outline';
  readonly hint: string;
}

const brush = (id: BrushEdit['kind'], label: string, what: string): TidyTool => ({
  id,
  label,
  way: 'brush',
  hint: `${what} Hold Shift for a straight line. Esc ends.`,
});
const outline = (id: string, label: string, what: string): TidyTool => ({
  id,
  label,
  way: 'outline',
  hint: `${what} Esc ends.`,
});

export const brushTools = [
  brush('rub', 'Rub out', 'Draw over what is to go.'),
  brush('back', 'Bring back', 'Draw over what was rubbed out or covered: the artwork comes back, not the ground.'),
  brush('solid', 'Make solid', 'Draw over what belongs to the mark though it has the ground’s colour.'),
] as const;

export const outlineTools = [
  outline('sweep', 'Drop pieces', 'Draw round the pieces that are to go.'),
  outline('inside', 'Keep inside', 'Draw round what is to stay: all beyond the outline goes.'),
  outline('solid-in', 'Solid in here', 'Draw round what belongs to the mark though it has the ground’s colour.'),
  outline('open-in', 'Open in here', 'Draw round what is to be see-through where it has the ground’s colour.'),
  outline('cover', 'Cover', 'Draw round what is to be covered with the colour beside it.'),
  outline('clear', 'Clear', 'Draw round what is to be cleared.'),
] as const;

export const tidyTools: readonly TidyTool[] = [...brushTools, ...outlineTools];
