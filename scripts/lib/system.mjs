// Debian packages that npm cannot bring: looked for first, installed when missing and root.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, writeFileSync, rmSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';

export const isRoot = () => process.getuid?.() === 0;

/** The folder with PostgreSQL's own binaries (initdb, postgres, pg_ctl), newest version first, or null. */
export function findPostgresBin() {
  const base = '/usr/lib/postgresql';
  if (existsSync(base)) {
    const versions = readdirSync(base).filter((v) => existsSync(join(base, v, 'bin/initdb')));
    versions.sort((a, b) => Number(b) - Number(a));
    if (versions[0]) return join(base, versions[0], 'bin');
  }
  return null;
}

export const findChromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((p) => existsSync(p)) ?? null;

const hasProgram = (name) => existsSync(`/usr/bin/${name}`);

const needs = {
  postgresql: () => findPostgresBin() !== null,
  chromium: () => findChromium() !== null,
  'libxml2-utils': () => hasProgram('xmllint'),
  qpdf: () => hasProgram('qpdf'),
  'poppler-utils': () => ['pdftoppm', 'pdftocairo', 'pdffonts', 'pdfimages'].every(hasProgram),
  ghostscript: () => hasProgram('gs'),
  webp: () => hasProgram('dwebp'),
  'libavif-bin': () => hasProgram('avifdec'),
  ffmpeg: () => ['ffmpeg', 'ffprobe'].every(hasProgram),
  'libtiff-tools': () => hasProgram('tiffinfo'),
  'librsvg2-bin': () => hasProgram('rsvg-convert'),
  'libimage-exiftool-perl': () => hasProgram('exiftool'),
  imagemagick: () => hasProgram('identify'),
  pngcheck: () => hasProgram('pngcheck'),
};

/** Clips, and readers of the files that are made, which share nothing with what writes them. */
export const READER_PACKAGES = ['ffmpeg', 'poppler-utils', 'ghostscript', 'webp', 'libavif-bin'];

/** What the tests ask beside what the application needs: more readers by other people. */
export const TEST_PACKAGES = [
  ...READER_PACKAGES,
  ...['libxml2-utils', 'qpdf', 'libtiff-tools', 'librsvg2-bin', 'libimage-exiftool-perl', 'imagemagick', 'pngcheck'],
];

/**
 * Installs what is missing of the named packages.
 * @throws Error naming the packages and the command when not root, or when the installation did not bring them
 */
export function ensurePackages(names, say) {
  const missing = names.filter((name) => !needs[name]());
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (!isRoot())
    throw new Error(
      `These Debian packages are missing: ${missing.join(', ')}. Install them as root, ` +
        `then run this again:\n  ${command}`,
    );
  say(`Installing Debian packages: ${missing.join(', ')}`);
  withoutServiceStarts(() => {
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    spawnSync('apt-get', ['update', '-qq'], { stdio: ['ignore', 'ignore', 'inherit'], env });
    const done = spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env,
    });
    if (done.status !== 0)
      throw new Error(`Installing ${missing.join(', ')} failed (exit ${done.status}). Try: ${command}`);
  });
  const still = missing.filter((name) => !needs[name]());
  if (still.length) throw new Error(`Still missing after installation: ${still.join(', ')}`);
}

// Debian's maintainer scripts ask policy-rc.d before starting a service; 101 means "do not".
function withoutServiceStarts(work) {
  const policy = '/usr/sbin/policy-rc.d';
  const clusters = '/etc/postgresql-common/createcluster.conf';
  const mine = !existsSync(policy);
  if (mine) writeFileSync(policy, '#!/bin/sh\nexit 101\n', { mode: 0o755 });
  if (!existsSync(clusters)) {
    mkdirSync('/etc/postgresql-common', { recursive: true });
    writeFileSync(clusters, 'create_main_cluster = false\n');
  }
  try {
    work();
  } finally {
    if (mine) rmSync(policy, { force: true });
  }
}

/** uid and gid of the account that PostgreSQL may run under: `postgres` when we are root, else ourselves. */
export function databaseAccount() {
  if (!isRoot()) return null;
  const id = (flag) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }).trim());
  return { uid: id('-u'), gid: id('-g') };
}
