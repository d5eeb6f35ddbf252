// npm run reference: writes docs/reference/settings.md from the registries. It is not kept, so that it cannot go out of
// date.
import { writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { casts } from '../core/casts';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { type Fields, initialValues, metaOf } from '../core/params';
import { purposes } from '../core/purposes';
import type { WithParams } from '../core/registry';
import { sizes } from '../core/sizes';
import { stages } from '../core/stages';
import { surrounds } from '../core/surrounds';

const REFERENCE = join(dirname(fileURLToPath(import.meta.url)), '../docs/reference/settings.md');

const cell = (text: string) => text.replaceAll('|', '\\|');

function settingsOf(params: Fields): string[] {
  const initial = initialValues(params) as Record<string, unknown>;
  const rows = Object.entries(params).map(([name, setting]) => {
    const { label, unit, expected, hint, option } = metaOf(setting);
    const accepted = unit ? `${expected}, ${unit}` : expected;
    const said = [label, ...(hint ? [hint] : [])].join('. ');
    const cells = [
      `\`${name}\``,
      accepted,
      `\`${JSON.stringify(initial[name])}\``,
      said,
      option ? `\`--${option}\`` : '',
    ];
    return `| ${cells.map(cell).join(' | ')} |`;
  });
  if (rows.length === 0) return ['No settings.', ''];
  return ['| name | accepted | at first | what it is | option |', '|---|---|---|---|---|', ...rows, ''];
}

const definitions = (title: string, list: readonly WithParams[], more: (d: WithParams) => string = () => '') => [
  `## ${title}`,
  '',
  ...(list.length === 0 ? ['None yet.', ''] : []),
  ...list.flatMap((d) => [
    `### ${d.title} (\`${d.id}\`)`,
    '',
    ...(more(d) ? [more(d), ''] : []),
    ...settingsOf(d.params),
  ]),
];

/** The page of every definition and its settings, as Markdown. */
export function settingsReference(): string {
  const stageOf = (d: WithParams) => `Version ${stages.get(d.id).version} of its settings.`;
  const formatOf = (d: WithParams) => `${formats.get(d.id).hint} Made from ${formats.get(d.id).accepts}.`;
  return [
    '# Settings',
    '',
    'Written by `npm run reference` from the registries in `core/`; the panels, the ' +
      'command line and the checks read the same ones.',
    '',
    ...definitions('Stages', stages.all, stageOf),
    ...definitions('Fills', fills.all),
    ...definitions('Surrounds', surrounds.all),
    ...definitions('Casts', casts.all),
    ...definitions('Sizes', sizes.all),
    ...definitions('Formats', formats.all, formatOf),
    '## Purposes',
    '',
    ...purposes.all.map((p) => `- ${p.title} (\`${p.id}\`)`),
    '',
  ].join('\n');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(REFERENCE, settingsReference());
