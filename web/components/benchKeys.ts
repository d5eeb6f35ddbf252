const WRITES = ['text', 'search', 'number', 'password', 'email', 'url', ''];

/** Whether somebody writes there, so that keys belong to the text: not on a radio, a switch or a slider. */
export function isWriting(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement) return true;
  if (target instanceof HTMLInputElement)
    return WRITES.includes(target.type) && target.getAttribute('role') !== 'combobox';
  return target instanceof HTMLElement && target.isContentEditable;
}

/** For keys that work wherever the focus is, but while somebody writes. */
export const unlessWriting = {
  preventDefault: true,
  enableOnFormTags: true,
  ignoreEventWhen: (event: KeyboardEvent) => isWriting(event.target),
} as const;
