import type { Browser } from 'playwright-core';

export function launchBrowser(args?: readonly string[]): Promise<Browser>;
