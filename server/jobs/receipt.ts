import type { FileReceipt } from '../../contract/views';

/** The receipt as a text file: one line a file, with what was read back from it. */
export function writeReceipt(
  mark: { name: string },
  files: readonly { name: string; variant: string; receipt: FileReceipt }[],
): string {
  const width = Math.max(...files.map((f) => f.name.length));
  const lines = files.map(({ name, variant, receipt: r }) => {
    const facts = [
      `${r.width} × ${r.height} px`,
      variant,
      'transparent',
      r.isSrgb ? 'sRGB' : 'no colour space',
      r.isInterlaced ? 'interlaced' : 'not interlaced',
      `${r.bytes} bytes`,
    ];
    if (r.enlargement > 1.005) facts.push(`enlarged ${r.enlargement.toFixed(2)} times`);
    return `${name.padEnd(width)}  ${facts.join(', ')}`;
  });
  return `${mark.name}\nEvery file was read back after writing.\n\n${lines.join('\n')}\n`;
}
