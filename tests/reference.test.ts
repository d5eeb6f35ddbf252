import { expect, it } from 'vitest';
import { settingsReference } from '../scripts/reference';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { sizes } from '../core/sizes';
import { stages } from '../core/stages';

it('the page of settings names every definition, and each of its settings with what it accepts', () => {
  const page = settingsReference();
  for (const definition of [...stages.all, ...fills.all, ...sizes.all, ...formats.all]) {
    const own = page.split(/^### /m).find((part) => part.startsWith(`${definition.title} (\`${definition.id}\`)`));
    expect(own, definition.id).toBeDefined();
    for (const name of Object.keys(definition.params)) expect(own, definition.id).toContain(`| \`${name}\` |`);
  }
  expect(page).toContain('| `choke` | a number from -5 to 5, px | `0` |');
});
