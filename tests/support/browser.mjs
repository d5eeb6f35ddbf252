// Debian's Chromium under playwright-core, with a fresh profile and no way out of this machine.
import { chromium } from 'playwright-core';
import { findChromium } from '../../scripts/lib/system.mjs';

const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--force-color-profile=srgb',
];

/** @param {string[]} [args]  besides */
export const launchBrowser = (args = []) =>
  chromium.launch({ executablePath: findChromium() ?? undefined, headless: true, args: [...ARGS, ...args] });
