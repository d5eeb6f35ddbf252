import { describe, expect, it } from 'vitest';
import { completeReceipt } from '../core/formats/receipt';
import { kindByName, sniffKind } from '../codecs/sniffKind';
import { writeReceipt } from './jobs/receipt';
import { attachment } from './routes/respond';
import { nameFromFile } from './prepareMark';

describe('names', () => {
  it.each([
    ['Trust_badge-final 2.jpg', 'Trust badge final 2'],
    ['C:\\work\\logo.PNG', 'Logo'],
    ['.png', 'Unnamed mark'],
    ['été.webp', 'Été'],
  ])('%s becomes %s', (file, name) => expect(nameFromFile(file)).toBe(name));
  it('downloads keep letters of any script and never break the header', () => {
    const header = attachment('Écluse "5"\r\nX: 1.png');
    expect(header).not.toMatch(/[\r\n]/);
    expect(header).toContain("filename*=UTF-8''%C3%89cluse");
  });
});

describe('what a file is', () => {
  it('is told by its first bytes, not by its name', () => {
    expect(sniffKind(Uint8Array.from([0xff, 0xd8, 0xff, 0xe0]))?.id).toBe('jpeg');
    expect(sniffKind(new TextEncoder().encode('RIFF....WEBPVP8 '))?.id).toBe('webp');
    expect(sniffKind(Uint8Array.from([0x49, 0x49, 0x2a, 0, 8]))?.id).toBe('tiff');
    expect(sniffKind(new TextEncoder().encode('RIFF....WAVEfmt '))).toBeNull();
    expect(sniffKind(new Uint8Array(0))).toBeNull();
    expect(kindByName('a.b.JPEG')?.id).toBe('jpeg');
    expect(kindByName('noending')).toBeNull();
  });
});

it('a receipt says what is in every file, and which were enlarged', () => {
  const receipt = completeReceipt({
    width: 480,
    height: 300,
    bytes: 1234,
    hasAlpha: true,
    isInterlaced: false,
    isSrgb: true,
    chunks: [],
    clearShare: 0.5,
    enlargement: 1.52,
  });
  const text = writeReceipt('Trust badge', [
    { name: 'a.png', variant: 'Black', receipt },
    { name: 'long-name.png', variant: 'Colour', receipt: { ...receipt, enlargement: 0.5 } },
  ]);
  expect(text).toContain(
    'a.png          PNG, 480 × 300 px, Black, transparent, sRGB, not interlaced, 1234 bytes, enlarged 1.52 times',
  );
  expect(text.split('\n').find((l) => l.startsWith('long-name'))).not.toContain('enlarged');
});
