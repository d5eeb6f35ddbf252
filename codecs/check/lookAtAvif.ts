import { type Look, ofPixels, profileName } from './look';
import { decodeBy } from './lookAtWebp';

/** An AVIF, by the system's `avifdec`, and by what its boxes name. @throws Error when it cannot be decoded */
export async function lookAtAvif(bytes: Uint8Array): Promise<Look> {
  const pixels = await decodeBy('avifdec', bytes, 'avif', (path, folder) => ['-d', '8', path, `${folder}/out.png`]);
  const latin = new TextDecoder('latin1').decode(bytes);
  const problems: string[] = [];
  // ISO/IEC 23008-12: what an item holds is named by four letters in its entry.
  if (/infe.{8}Exif/s.test(latin)) problems.push('holds EXIF data');
  if (/infe.{8}mime[^\0]*\0application\/rdf\+xml/s.test(latin)) problems.push('holds XMP data');
  const hasAlpha = latin.includes('urn:mpeg:mpegB:cicp:systems:auxiliary:alpha');
  return { ...ofPixels(pixels), format: 'avif', ppi: null, hasAlpha, profile: profileIn(latin, bytes), problems };
}

/** The colour box: an ICC profile, or numbers of which 1, 13 name sRGB. @see ISO/IEC 14496-12, 12.1.5 */
function profileIn(latin: string, bytes: Uint8Array): string | null {
  const icc = /colr(prof|rICC)/.exec(latin);
  if (icc) return profileName(bytes.subarray(icc.index + 8));
  const named = latin.indexOf('colrnclx');
  if (named < 0) return null;
  return bytes[named + 9] === 1 && bytes[named + 11] === 13 ? 'sRGB' : 'named by numbers';
}
