const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Bytes as text. @see RFC 4648, 4 */
export function base64(bytes: Uint8Array): string {
  const parts: string[] = [];
  let line = '';
  for (let k = 0; k < bytes.length; k += 3) {
    const [a, b, c] = [bytes[k], bytes[k + 1], bytes[k + 2]];
    line += ALPHABET[a >> 2] + ALPHABET[((a & 3) << 4) | ((b ?? 0) >> 4)];
    line += b === undefined ? '=' : ALPHABET[((b & 15) << 2) | ((c ?? 0) >> 6)];
    line += c === undefined ? '=' : ALPHABET[c & 63];
    if (line.length > 8192) {
      parts.push(line);
      line = '';
    }
  }
  return parts.join('') + line;
}
