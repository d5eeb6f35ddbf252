import type { PDFDocument, PDFPage, PDFRef } from '@cantoo/pdf-lib';
import { CoreError } from '../../core/errors';
import { type Matrix, invert, multiply } from '../../core/geometry/matrix';
import type { RectPx } from '../../core/params';
import { withPdf } from '../readPdfPage';
import { balanceOf } from './contentBalance';
import { checkPage, textOf } from './openDocument';

type Lib = typeof import('@cantoo/pdf-lib');

/** One page of a PDF file of ours, laid on a page of a document. */
export interface Stamp {
  /** Of one page, exactly round what it shows. */
  readonly pdf: Uint8Array;
  /** 1 for the first. */
  readonly page: number;
  /** Points from the upper left corner of the page as it is seen. */
  readonly box: RectPx;
}

/**
 * Puts signatures on a document by adding to its end: everything that was there stays as it was, byte for byte.
 * @throws CoreError 'document/refused' for locked and signed files, 'document/damaged', 'file/read-back';
 *   each naming it
 */
export async function signPdf(bytes: Uint8Array, name: string, stamps: readonly Stamp[]): Promise<Uint8Array> {
  const lib = await import('@cantoo/pdf-lib');
  const document = await open(bytes, name, lib);
  const views = await viewsOf(bytes, name, [...new Set(stamps.map((s) => s.page))]);
  for (const { pdf, page, box } of stamps) {
    const [form] = await document.embedPdf(pdf);
    // Up is up in the form, and down on the page as it is seen.
    const onView: Matrix = [box.width / form.width, 0, 0, -box.height / form.height, box.x, box.y + box.height];
    await form.embed();
    const matrix = multiply(invert(views.get(page) as Matrix), onView);
    addToPage(document.getPage(page - 1), form.ref, matrix, { document, lib });
  }
  const out = await document.commit();
  await checkSigned(bytes, out, name);
  return out;
}

async function open(bytes: Uint8Array, name: string, lib: Lib): Promise<PDFDocument> {
  const details = { file: name };
  let document: PDFDocument;
  try {
    document = await lib.PDFDocument.load(bytes, {
      ...{ forIncrementalUpdate: true, updateMetadata: false, throwOnInvalidObject: false, ignoreEncryption: true },
    });
  } catch (cause) {
    throw new CoreError(
      'document/damaged',
      `${name} cannot be read as a PDF file. Open it where it came from and save it anew.`,
      details,
      { cause },
    );
  }
  if (document.isEncrypted)
    throw new CoreError(
      'document/refused',
      `${name} is locked. Ask for it without a password, or print it into a new PDF file, and sign that.`,
      details,
    );
  if (isSigned(document, lib))
    throw new CoreError(
      'document/refused',
      `${name} is already signed by a certificate, which a change would break. Sign a copy that is not.`,
      details,
    );
  return document;
}

function isSigned({ context, catalog }: PDFDocument, { PDFDict, PDFName }: Lib): boolean {
  if (catalog.has(PDFName.of('Perms'))) return true;
  return context.enumerateIndirectObjects().some(([, object]) => {
    if (!(object instanceof PDFDict)) return false;
    // A signature's own dictionary says which bytes it vouches for.
    return object.has(PDFName.of('ByteRange')) && object.has(PDFName.of('Contents'));
  });
}

/** How pages are seen, by their numbers: from their own units to points from the upper left corner. */
const viewsOf = (bytes: Uint8Array, name: string, pages: readonly number[]): Promise<Map<number, Matrix>> =>
  withPdf(bytes, name, async (pdf) => {
    const views = new Map<number, Matrix>();
    for (const page of pages) {
      checkPage(page, pdf.numPages, name);
      views.set(page, (await pdf.getPage(page)).getViewport({ scale: 1 }).transform as unknown as Matrix);
    }
    return views;
  });

/** After all that the page holds, which is closed in so that nothing it left behind moves or colours what follows. */
function addToPage(
  page: PDFPage,
  form: PDFRef,
  matrix: Matrix,
  { document, lib }: { document: PDFDocument; lib: Lib },
) {
  const { context } = document;
  const { PDFArray, PDFDict, PDFName, PDFRawStream, PDFStream, decodePDFRawStream } = lib;
  const held = page.node.lookup(PDFName.of('Contents'));
  const own = page.node.get(PDFName.of('Contents'));
  const refs = held instanceof PDFArray ? held.asArray() : own ? [own] : [];
  const parts = refs.flatMap((ref) => {
    const stream = context.lookup(ref);
    if (stream instanceof PDFRawStream) return [Buffer.from(decodePDFRawStream(stream).decode()), Buffer.from('\n')];
    return stream instanceof PDFStream ? [Buffer.from(stream.getContents()), Buffer.from('\n')] : [];
  });
  const { open, extra, inText } = balanceOf(Buffer.concat(parts));
  const stream = (text: string) => context.register(context.stream(text));
  const name = freeName(page, lib);
  const numbers = matrix.map((v) => Number(v.toFixed(6))).join(' ');
  const before = stream(`${'q\n'.repeat(1 + extra)}`);
  const after = stream(`${inText ? 'ET\n' : ''}${'Q\n'.repeat(1 + open)}q\n${numbers} cm\n/${name} Do\nQ\n`);
  // Pages may share what they draw with: this one gets its own, with the same entries.
  const shared = page.node.Resources();
  const resources = shared ? shared.clone(context) : context.obj({});
  const forms = resources.lookupMaybe(PDFName.of('XObject'), PDFDict)?.clone(context) ?? context.obj({});
  forms.set(PDFName.of(name), form);
  resources.set(PDFName.of('XObject'), forms);
  page.node.set(PDFName.of('Resources'), resources);
  page.node.set(PDFName.of('Contents'), context.obj([before, ...refs, after]));
}

function freeName(page: PDFPage, { PDFDict, PDFName }: Lib): string {
  const forms = page.node.Resources()?.lookupMaybe(PDFName.of('XObject'), PDFDict);
  for (let k = 1; ; k++) if (!forms?.has(PDFName.of(`Signature${k}`))) return `Signature${k}`;
}

/** What stood there stands there still, to the letter. @throws CoreError 'file/read-back' */
async function checkSigned(before: Uint8Array, after: Uint8Array, name: string): Promise<void> {
  const [was, is] = [await textOf(before), await textOf(after)];
  if (!was.equals(is))
    throw new CoreError('file/read-back', `${name}: its text did not read back as it was. Nothing is written.`, {
      file: name,
    });
}
