import type { FileReceipt } from '../../core/formats/receipt';

interface Received {
  readonly name: string;
  readonly variant: string;
  readonly receipt: FileReceipt;
}

const round = (v: number) => Math.round(v * 100) / 100;

/** The receipt as a text file: one line a file, with what was read back from it. */
export function writeReceipt(title: string, files: readonly Received[]): string {
  const width = Math.max(...files.map((f) => f.name.length));
  const lines = files.map((file) => `${file.name.padEnd(width)}  ${factsOf(file).join(', ')}`);
  return `${title}\nEvery file was read back after writing.\n\n${lines.join('\n')}\n`;
}

function factsOf({ variant, receipt: r }: Received): string[] {
  const e = r.extents;
  return [
    `${r.format.toUpperCase()}, ${round(r.width)} × ${round(r.height)} ${r.unit}`,
    variant,
    r.hasAlpha ? 'transparent' : 'no transparency',
    ...(r.ppi === null ? [] : [`${Math.round(r.ppi)} ppi`]),
    ...(r.paths === null
      ? [r.profile ?? (r.isSrgb ? 'sRGB' : 'no colour space'), r.isInterlaced ? 'interlaced' : 'not interlaced']
      : [
          `${r.paths} ${r.paths === 1 ? 'path' : 'paths'}`,
          r.pictures > 0 ? `${r.pictures} embedded` : 'no picture',
          r.fonts > 0 ? 'text' : 'no text',
        ]),
    ...(r.alphaRange ? [`alpha ${r.alphaRange.join(' to ')}`] : []),
    ...(e ? [`visible from ${round(e.x)}, ${round(e.y)}, ${round(e.width)} × ${round(e.height)} ${r.unit}`] : []),
    ...(r.cornersClear === null ? [] : [r.cornersClear ? 'corners clear' : 'corners not clear']),
    `${r.bytes} bytes`,
    ...(r.enlargement > 1.005 ? [`enlarged ${r.enlargement.toFixed(2)} times`] : []),
    ...(r.sha256 ? [`SHA-256 ${r.sha256}`] : []),
  ];
}

/** The same for programs. */
export function writeReceiptJson(title: string, files: readonly Received[]): string {
  const told = files.map(({ name, variant, receipt }) => ({ file: name, variant, ...receipt }));
  return `${JSON.stringify({ title, files: told }, null, 2)}\n`;
}
