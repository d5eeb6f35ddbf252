import { runOnFile } from '../runProgram';
import { type Look, ifThere } from './look';
import { pixelsOfPng } from './lookAtPng';
import { LOOK_PX } from './lookAtSvg';

/** Entries of the document's information that tell of somebody. */
const TELLING = ['Author', 'Title', 'Subject', 'Keywords', 'Creator', 'Producer', 'CreationDate', 'ModDate'] as const;

/** A PDF, by pdf.js for what is in it and the system's `pdftocairo` for its first page. @throws Error */
export async function lookAtPdf(bytes: Uint8Array): Promise<Look> {
  const { OPS, VerbosityLevel, getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  // It takes the bytes away from whoever hands them over.
  const task = getDocument({ data: Uint8Array.from(bytes), verbosity: VerbosityLevel.ERRORS, isEvalSupported: false });
  try {
    const document = await task.promise;
    const page = await document.getPage(1);
    const [left, bottom, right, top] = page.view;
    const { fnArray, argsArray } = await page.getOperatorList();
    const count = (...codes: number[]) => fnArray.filter((code) => codes.includes(code)).length;
    const fills = new Set<string>();
    fnArray.forEach((code, k) => {
      const [hex] = (argsArray[k] ?? []) as unknown[];
      if (code === OPS.setFillRGBColor && typeof hex === 'string') fills.add(hex);
    });
    const info = (await document.getMetadata()).info as Record<string, unknown>;
    const problems: string[] = TELLING.filter((key) => info[key]).map((key) => `tells its ${key}`);
    if (document.numPages > 1) problems.push(`has ${document.numPages} pages`);
    const [width, height] = [right - left, top - bottom];
    const side = height > width ? ['-scale-to-y', String(LOOK_PX), '-scale-to-x', '-1'] : [];
    const scale = side.length > 0 ? side : ['-scale-to-x', String(LOOK_PX), '-scale-to-y', '-1'];
    const drawing = runOnFile(
      'pdftocairo',
      bytes,
      (path, folder) => ['-png', '-transp', '-singlefile', '-f', '1', ...scale, path, `${folder}/out`],
      { ending: 'pdf', output: 'out.png' },
    );
    const png = await ifThere(drawing);
    return {
      ...{ format: 'pdf', width, height, unit: 'pt', ppi: null, hasAlpha: true, isInterlaced: false },
      profile: null,
      pixels: png && pixelsOfPng(png),
      paths: count(OPS.constructPath),
      fills: [...fills],
      fonts: count(OPS.setFont),
      pictures: count(OPS.paintImageXObject, OPS.paintInlineImageXObject, OPS.paintImageMaskXObject),
      problems,
    };
  } finally {
    await task.destroy();
  }
}
