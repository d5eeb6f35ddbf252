// What screens ask of a browser and the tests' document does not have.
import { cleanup, configure } from '@testing-library/react';
import { afterEach, vi } from 'vitest';

// What does not appear in this time hangs: on a busy machine the usual second is none.
configure({ asyncUtilTimeout: 60_000 });

class Nothing {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.ResizeObserver ??= Nothing as unknown as typeof ResizeObserver;
window.matchMedia ??= ((query: string) => ({
  matches: false,
  media: query,
  onchange: null,
  addListener() {},
  removeListener() {},
  addEventListener() {},
  removeEventListener() {},
  dispatchEvent: () => false,
})) as unknown as typeof window.matchMedia;
HTMLElement.prototype.setPointerCapture ??= () => {};
HTMLElement.prototype.releasePointerCapture ??= () => {};
HTMLElement.prototype.hasPointerCapture ??= () => false;

// A pen that draws nothing: whatever is asked of it is done, and gives nothing.
const pen = new Proxy({}, { get: () => () => undefined, set: () => true });
HTMLCanvasElement.prototype.getContext = (() => pen) as never;

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});
