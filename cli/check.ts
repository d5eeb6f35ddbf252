import { basename } from 'node:path';
import { type CheckedFile, checkFile } from '../codecs/check/checkFile';
import { CoreError } from '../core/errors';
import { type Command, readArguments, readInput } from './command';

const help = `tassel check FILE… [options]

Reads files as somebody else's program does, whoever made them: PNG, JPEG, TIFF, WebP,
AVIF, ICO, SVG, PDF, EPS. Says their size, transparency, colours and what else is in
them, and what should not be.

  --json   prints one object a file, each on a line of its own

The exit code is 1 when a file cannot be read at all.`;

export const check: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, { json: { type: 'boolean' } });
    if (positionals.length === 0) throw new CoreError('cli/usage', 'check takes at least one file.');
    const found: CheckedFile[] = [];
    for (const path of positionals) found.push(await checkFile(readInput(path), basename(path)));
    for (const one of found) console.log(values.json ? JSON.stringify(one) : inWords(one));
    return found.some((f) => f.width === null) ? 1 : 0;
  },
};

function inWords(f: CheckedFile): string {
  if (f.width === null) return `${f.file}\n  ${f.problems.join('\n  ')}`;
  const { extents: e } = f;
  const facts = [
    `${f.format?.toUpperCase()}, ${f.width} × ${f.height} ${f.unit}`,
    f.ppi === null ? 'no resolution' : `${f.ppi} ppi`,
    f.hasAlpha ? `alpha ${f.alphaRange?.join(' to ')}` : 'no alpha',
    e ? `visible from ${e.x}, ${e.y}, ${e.width} × ${e.height} ${f.unit}` : 'nothing visible',
    f.cornersClear ? 'corners clear' : 'corners not clear',
    f.profile ?? 'no colour space',
    ...(f.interlaced ? ['interlaced'] : []),
    `${f.fonts} fonts, ${f.pictures} pictures`,
    `${f.bytes} bytes`,
    `SHA-256 ${f.sha256}`,
  ];
  return [f.file, `  ${facts.join(', ')}`, ...f.problems.map((p) => `  problem: ${p}`)].join('\n');
}
