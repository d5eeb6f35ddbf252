import type { FileReceipt } from '../../core/formats/receipt';

/** The receipt as a text file: one line a file, with what was read back from it. */
export function writeReceipt(
  mark: { name: string },
  files: readonly { name: string; variant: string; receipt: FileReceipt }[],
): string {
  const width = Math.max(...files.map((f) => f.name.length));
  const lines = files.map(({ name, variant, receipt: r }) => {
    const round = (v: number) => Math.round(v * 100) / 100;
    const facts = [
      `${r.format.toUpperCase()}, ${round(r.width)} × ${round(r.height)} ${r.unit}`,
      variant,
      'transparent',
    ];
    if (r.ppi !== null) facts.push(`${Math.round(r.ppi)} ppi`);
    if (r.paths !== null) facts.push(`${r.paths} ${r.paths === 1 ? 'path' : 'paths'}`, 'no picture', 'no text');
    else facts.push(r.isSrgb ? 'sRGB' : 'no colour space', r.isInterlaced ? 'interlaced' : 'not interlaced');
    facts.push(`${r.bytes} bytes`);
    if (r.enlargement > 1.005) facts.push(`enlarged ${r.enlargement.toFixed(2)} times`);
    return `${name.padEnd(width)}  ${facts.join(', ')}`;
  });
  return `${mark.name}\nEvery file was read back after writing.\n\n${lines.join('\n')}\n`;
}
