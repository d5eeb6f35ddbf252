import { CoreError } from '../core/errors';
import type { ReadBack } from '../core/formats/receipt';

/** Reads a PDF file back by pdf.js, which shares nothing with the writer. @throws CoreError 'file/read-back' */
export async function readBackPdf(bytes: Uint8Array, name: string): Promise<ReadBack> {
  const fail = (what: string, cause?: unknown): never => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name }, { cause });
  };
  const { OPS, VerbosityLevel, getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  // It takes the bytes away from whoever hands them over.
  const task = getDocument({ data: Uint8Array.from(bytes), verbosity: VerbosityLevel.ERRORS, isEvalSupported: false });
  try {
    const document = await task.promise;
    if (document.numPages !== 1) fail(`it has ${document.numPages} pages`);
    const page = await document.getPage(1);
    const [left, bottom, right, top] = page.view;
    const { fnArray } = await page.getOperatorList();
    const count = (...codes: number[]) => fnArray.filter((code) => codes.includes(code)).length;
    const text = await page.getTextContent();
    return {
      ...{ format: 'pdf', width: right - left, height: top - bottom, unit: 'pt', bytes: bytes.length, ppi: null },
      ...{ hasAlpha: true, clearShare: null, isInterlaced: false, isSrgb: true, chunks: [] },
      paths: count(OPS.constructPath),
      pictures: count(OPS.paintImageXObject, OPS.paintInlineImageXObject, OPS.paintImageMaskXObject),
      fonts: text.items.length + count(OPS.setFont),
    };
  } catch (cause) {
    if (cause instanceof CoreError) throw cause;
    return fail((cause as Error).message, cause);
  } finally {
    await task.destroy();
  }
}
