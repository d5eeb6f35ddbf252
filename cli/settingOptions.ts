import { CoreError } from '../core/errors';
import { type Fields, type SettingMeta, metaOf } from '../core/params';
import { readNumber } from './command';

/** What `parseArgs` is told of an option. */
type OptionConfig = { type: 'string' | 'boolean'; multiple?: boolean };
export type Given = Readonly<Record<string, string | string[] | boolean | undefined>>;

/** The settings of a definition that have a name on the command line. */
const named = (fields: Fields): [string, SettingMeta & { option: string }][] =>
  Object.entries(fields)
    .map(([name, setting]) => [name, metaOf(setting)] as const)
    .filter((entry): entry is [string, SettingMeta & { option: string }] => entry[1].option !== undefined);

/** Those options as `parseArgs` wants them. */
export const optionsOf = (fields: Fields): Record<string, OptionConfig> =>
  Object.fromEntries(named(fields).map(([, meta]) => [meta.option, configOf(meta)]));

const configOf = (meta: SettingMeta): OptionConfig =>
  meta.kind === 'flag'
    ? { type: 'boolean' }
    : { type: 'string', ...(meta.kind === 'colours' ? { multiple: true } : {}) };

/** Help lines, one for each option: its name, what it takes, what it does. */
export const helpOf = (fields: Fields): string =>
  named(fields)
    .map(([, meta]) => `  ${`--${meta.option} ${takes(meta)}`.padEnd(23)}${saying(meta)}`)
    .join('\n');

function takes(meta: SettingMeta): string {
  if (meta.kind === 'number') return `${meta.isOptional ? 'auto|' : ''}${meta.min}..${meta.max}`;
  if (meta.kind === 'choice') return (meta.choices ?? []).map((c) => c.value).join('|');
  return meta.kind === 'colour' || meta.kind === 'colours' ? "'#rrggbb'" : '';
}

function saying({ label, hint, unit, kind, max }: SettingMeta): string {
  const times = kind === 'colours' && (max ?? 1) > 1 ? ` Up to ${max} times.` : '';
  return `${(hint ?? `${label}.`).replace(/\.$/, '')}${unit ? `, in ${unit}` : ''}.${times}`;
}

/**
 * Settings as the options given say; only those that were given.
 * @throws CoreError 'cli/usage' naming the option, what it takes and what was got
 */
export function readSettings(fields: Fields, given: Given): Record<string, unknown> {
  const found: Record<string, unknown> = {};
  for (const [name, meta] of named(fields)) {
    const value = given[meta.option];
    if (value !== undefined) found[name] = readSetting(meta, value);
  }
  return found;
}

function readSetting(meta: SettingMeta & { option: string }, value: string | string[] | boolean): unknown {
  const { option, kind } = meta;
  if (kind === 'flag') return value === true;
  if (kind === 'colours') {
    const colours = [value].flat().map((text) => readColour(String(text), option));
    if (colours.length > (meta.max ?? 1))
      throw new CoreError('cli/usage', `--${option} can be given ${meta.max} times at most, got ${colours.length}.`);
    return colours;
  }
  const text = String(value);
  if (kind === 'colour') return readColour(text, option);
  if (kind === 'number') {
    if (meta.isOptional && text === 'auto') return null;
    return readNumber(text, option, meta.min as number, meta.max as number);
  }
  const choices = (meta.choices ?? []).map((c) => c.value);
  if (!choices.includes(text)) {
    const words = `${choices.slice(0, -1).join(', ')} or ${choices[choices.length - 1]}`;
    throw new CoreError('cli/usage', `--${option} takes ${words}, got "${text}".`);
  }
  return text;
}

/** @throws CoreError 'cli/usage' unless the text is a colour */
export function readColour(text: string, option: string): string {
  const hex = text.startsWith('#') ? text : `#${text}`;
  if (!/^#[0-9a-f]{6}$/i.test(hex))
    throw new CoreError('cli/usage', `--${option} takes a colour such as #f4efe4, got "${text}".`);
  return hex.toLowerCase();
}
