import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { commandLine } from '../support/commandLine';

const { at, folder, tassel } = commandLine('clips');
const MARK =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#1f5a45"/>' +
  '<circle cx="20" cy="10" r="7" fill="#e9ddc4"/></svg>';

interface Stream {
  readonly [key: string]: string | Record<string, string>;
}
const probe = (name: string): { streams: Stream[]; format: { duration: string } } =>
  JSON.parse(
    execFileSync(
      'ffprobe',
      ['-v', 'error', '-count_frames', '-show_streams', '-show_format', '-of', 'json', at(name)],
      { encoding: 'utf8' },
    ),
  );
const decode = (name: string, ...more: string[]) =>
  execFileSync('ffmpeg', ['-v', 'error', ...more, '-i', at(name), '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'], {
    maxBuffer: 1 << 30,
  });
const soundOf = (name: string) =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', at(name), '-map', '0:a', '-c', 'copy', '-f', 'md5', '-']).toString();
const SIZE = { width: 320, height: 180 };

beforeAll(() => {
  writeFileSync(at('mark.svg'), MARK);
  // Light in its first half, dark in its second.
  const light = 'color=#f0f0e8:s=320x180:r=25:d=1';
  const dark = 'color=#101418:s=320x180:r=25:d=1';
  const filter = '[0][1]concat=n=2:v=1:a=0[v]';
  const inputs = ['-f', 'lavfi', '-i', light, '-f', 'lavfi', '-i', dark, '-f', 'lavfi', '-i', 'sine=d=2'];
  const coded = ['-map', '[v]', '-map', '2:a', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac'];
  execFileSync('ffmpeg', ['-v', 'error', ...inputs, '-filter_complex', filter, ...coded, at('clip.mp4')]);
});

describe('an overlay', () => {
  it.each([
    ['prores4444', 'o.mov', 'prores', 2, []],
    ['webm', 'o.webm', 'vp9', 6, ['-c:v', 'libvpx-vp9']],
  ] as const)(
    'as %s has the frame, rate, length and alpha that were asked for',
    async (form, out, codec, most, reader) => {
      const words = ['--frame', '320x180', '--seconds', '1.2', '--opacity', '0.8', '--size', '40%'];
      const ended = await tassel('overlay', at('mark.svg'), ...words, '--form', form, '--out', at(out));
      expect([ended.stderr, ended.code]).toEqual(['', 0]);
      await tassel('overlay', at('mark.svg'), ...words, '--form', 'png', '--out', at('o.png'));
      const { streams, format } = probe(out);
      expect(streams[0]).toMatchObject({ codec_name: codec, width: 320, height: 180, r_frame_rate: '25/1' });
      expect([streams[0].nb_read_frames, Number(format.duration)]).toEqual(['30', 1.2]);
      const wanted = await sharp(at('o.png')).raw().toBuffer();
      const frames = decode(out, ...reader);
      let off = 0;
      for (let p = 3; p < wanted.length; p += 4) off = Math.max(off, Math.abs(wanted[p] - frames[p]));
      expect(off).toBeLessThanOrEqual(most);
      // 80 % of the mark, and nothing of the rest.
      expect(new Set(wanted.filter((_, p) => p % 4 === 3))).toEqual(new Set([0, 204]));
    },
  );
  it('on a key colour is flat round the mark, and says when the mark would go with it', async () => {
    const words = ['--frame', '320x180', '--seconds', '0.4', '--at', 'centre'];
    const key = (form: string, out: string, mark: string, ...more: string[]) =>
      tassel('overlay', at(mark), ...words, '--form', form, '--out', at(out), ...more);
    expect((await key('key-blue', 'k.mp4', 'mark.svg')).stderr).toBe('');
    const frame = decode('k.mp4').subarray(0, 320 * 180 * 4);
    for (const [x, y] of [
      [0, 0],
      [319, 179],
      [300, 20],
    ]) {
      const p = (y * 320 + x) * 4;
      expect([frame[p] < 8, frame[p + 1] < 8, frame[p + 2] > 247]).toEqual([true, true, true]);
    }
    writeFileSync(
      at('thin.svg'),
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20">' +
        '<path d="M0 0h40v20h-40z M.5 .5v19h39v-19z" fill="#fff" fill-rule="evenodd"/></svg>',
    );
    expect((await key('key-blue', 't.mp4', 'thin.svg', '--shrunk-to', '160')).stderr).toContain('breaks up');
    writeFileSync(at('green.svg'), MARK.replace('#1f5a45', '#00f010'));
    expect((await key('key-green', 'g.mp4', 'green.svg')).stderr).toContain('Use key-blue');
  });
  it.each([
    [['--form', 'gif', '--out', 'x.gif'], '--form takes one of png, prores4444'],
    [['--form', 'webm', '--out', 'x.mov'], 'webm is written as .webm'],
    [['--form', 'webm', '--out', 'x.webm', '--seconds', '0'], '--seconds takes a number from'],
    [['--form', 'webm', '--out', 'x.webm', '--frame', '321x180'], 'even sides'],
  ])('%j is refused with the reason', async (more, words) => {
    const usual = ['--frame', '320x180', '--seconds', '1'];
    const { stderr, code } = await tassel('overlay', at('mark.svg'), ...usual, ...more);
    expect([code, stderr]).toEqual([2, expect.stringContaining(words)]);
  });
});

describe('a clip with the mark burnt in', () => {
  it('carries it on every frame, in the variant that is never lost, and its sound is the very same', async () => {
    writeFileSync(
      at('red.json'),
      JSON.stringify({ name: 'Red', fill: { id: 'oneColour', params: { colour: '#d02818' } } }),
    );
    const items = [{ mark: at('mark.svg'), variant: ['black', 'reversed', at('red.json')], size: '40%', at: 'centre' }];
    writeFileSync(at('P.json'), JSON.stringify({ items }));
    const words = ['--placement', at('P.json'), '--out', at('burnt.mp4'), '--report', at('r.json')];
    const { stderr, code } = await tassel('place', at('clip.mp4'), ...words);
    expect([stderr, code]).toEqual(['', 0]);
    expect(JSON.parse(readFileSync(at('r.json'), 'utf8'))[0].items[0]).toMatchObject({
      ...{ variant: 'Red', box: { x: 96, y: 58, width: 128, height: 64 } },
    });
    expect(soundOf('burnt.mp4')).toBe(soundOf('clip.mp4'));
    const [before, after] = [probe('clip.mp4'), probe('burnt.mp4')];
    expect(after.streams[0]).toMatchObject({ nb_read_frames: '50', ...SIZE });
    expect(after.streams[0].duration).toBe(before.streams[0].duration);
    const frames = decode('burnt.mp4');
    const bytes = SIZE.width * SIZE.height * 4;
    const red = (frame: number) => frames.subarray(frame * bytes + (65 * 320 + 110) * 4).subarray(0, 3);
    for (let k = 0; k < 50; k++) {
      const [r, g] = red(k);
      expect([k, r > 180, g < 80]).toEqual([k, true, true]);
    }
    expect(readdirSync(folder).filter((name) => name.includes('.part'))).toEqual([]);
  });
  it.each([
    ['a text named as one', 'text.mp4', 'not a clip at all, only some words', 'is no MP4, MOV or WebM clip'],
    ['one cut off', 'cut.mp4', null, 'cannot be read as a clip'],
  ])('%s is refused by name, and nothing is written', async (_, name, text, words) => {
    writeFileSync(at(name), text ?? readFileSync(at('clip.mp4')).subarray(0, 900));
    const { stderr, code } = await tassel('place', at(name), '--mark', at('mark.svg'), '--out', at('no.mp4'));
    expect([code, stderr]).toEqual([1, expect.stringContaining(`${name} ${words}`)]);
    expect(existsSync(at('no.mp4'))).toBe(false);
  });
  it('a list of other files is no clip', () => {
    writeFileSync(at('list.mp4'), `ftypftypffconcat version 1.0\nfile '${at('clip.mp4')}'\n`);
    const out = spawnSync(process.execPath, ['cli/tassel.mjs', 'place', at('list.mp4'), '--mark', at('mark.svg')], {
      encoding: 'utf8',
    });
    expect(out.status).not.toBe(0);
  });
});
