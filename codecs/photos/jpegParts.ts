import { passOnExif } from './exif';

/** What a JPEG file says about its picture beside its pixels, as segments that another file can take over. */
export interface JpegParts {
  readonly segments: readonly Buffer[];
}

const SOI = 0xd8;
const SOS = 0xda;
const APP0 = 0xe0;
export const APP1 = 0xe1;
const APP2 = 0xe2;
export const EXIF = 'Exif\0\0';
const XMP = 'http://ns.adobe.com/xap/1.0/\0';
const PROFILE = 'ICC_PROFILE\0';
/** Words under which a place stands in XMP. */
const PLACES = /gps|location|:city|:state|country|sublocation/i;
export const tellsPlace = (xmp: string): boolean => PLACES.test(xmp);

interface Segment {
  readonly marker: number;
  /** From the marker on. */
  readonly bytes: Buffer;
  readonly body: Buffer;
}

export function* segmentsOf(bytes: Buffer): Generator<Segment> {
  for (let at = 2; at + 4 <= bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1];
    if (marker === SOS) return;
    const length = bytes.readUInt16BE(at + 2);
    yield { marker, bytes: bytes.subarray(at, at + 2 + length), body: bytes.subarray(at + 4, at + 2 + length) };
    at += 2 + length;
  }
}

const starts = ({ body }: Segment, text: string) => body.toString('latin1', 0, text.length) === text;

/**
 * The colour profile, Exif and XMP of a JPEG file that another one can carry on.
 * @param keeps  whether the profile still holds of the pixels, and whether the place is passed on
 * @see ITU-T T.81, B.1.1.3 (markers); ICC.1:2022, B.4 (profiles in JPEG)
 */
export function partsOfJpeg(bytes: Buffer, keeps: { profile: boolean; location: boolean }): JpegParts {
  const segments: Buffer[] = [];
  for (const segment of segmentsOf(bytes)) {
    const { marker, body } = segment;
    if (marker === APP2 && starts(segment, PROFILE) && keeps.profile) segments.push(segment.bytes);
    if (marker !== APP1) continue;
    if (starts(segment, EXIF)) {
      const exif = passOnExif(body.subarray(EXIF.length), keeps.location);
      if (exif) segments.push(app1(Buffer.concat([Buffer.from(EXIF, 'latin1'), exif])));
    } else if (starts(segment, XMP) && (keeps.location || !tellsPlace(body.toString('latin1')))) {
      segments.push(segment.bytes);
    }
  }
  return { segments };
}

function app1(body: Buffer): Buffer {
  const head = Buffer.from([0xff, APP1, 0, 0]);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
}

/** A JPEG file with such parts, before all that makes the picture. */
export function withJpegParts(bytes: Buffer, { segments }: JpegParts): Buffer {
  if (segments.length === 0 || bytes[1] !== SOI) return bytes;
  const hasJfif = bytes[3] === APP0;
  const at = hasJfif ? 4 + bytes.readUInt16BE(4) : 2;
  return Buffer.concat([bytes.subarray(0, at), ...segments, bytes.subarray(at)]);
}
