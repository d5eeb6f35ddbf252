import type { WallReceipt } from '../contract/walls';
import type { MadeFile } from '../codecs/wallFiles';

/** The counts of a receipt for a header: names may hold what a header may not. */
export const countsOf = ({ logos, files, fixed, withProblems, leftOut, withoutSvg }: WallReceipt): string =>
  JSON.stringify({
    ...{ logos, files, fixed: fixed.length, withProblems: withProblems.length },
    ...{ leftOut: leftOut.length, withoutSvg: withoutSvg.length },
  });

/** A wall's receipt as files, for people and for scripts. */
export function receiptFiles(receipt: WallReceipt): MadeFile[] {
  const bytes = (text: string) => new TextEncoder().encode(text);
  return [
    { name: 'receipt.json', bytes: bytes(`${JSON.stringify(receipt, null, 2)}\n`) },
    { name: 'receipt.txt', bytes: bytes(textOf(receipt)) },
  ];
}

function textOf({ wall, logos, files, fixed, withProblems, leftOut, withoutSvg }: WallReceipt): string {
  const told = (own: WallReceipt['fixed']) => own.map((f) => `${f.file}: ${f.problems.join(', ')}`);
  const parts: [title: string, lines: readonly string[]][] = [
    ['Fixed', told(fixed)],
    ['Exported with problems', told(withProblems)],
    ['Left out', leftOut],
    ['Pixels only, no SVG', withoutSvg],
  ];
  return [
    `${wall}: ${logos} logos, ${files} files. Every file was read back and checked.`,
    ...parts.flatMap(([title, lines]) => (lines.length === 0 ? [] : ['', title, ...lines.map((l) => `  ${l}`)])),
    '',
  ].join('\n');
}
