import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { mayImport } from '../scripts/lint/arrows.mjs';

const listed = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard'], { encoding: 'utf8' })
  .split('\n')
  .filter((path) => path && existsSync(path));
const isTest = (path: string) => /\.test\.tsx?$/.test(path) || path.startsWith('tests/') || /\/test[A-Z]/.test(path);
const sources = listed.filter((path) => /\.tsx?$/.test(path) && !isTest(path) && !path.includes('kernels/assembly'));
const linesOf = (path: string) => readFileSync(path, 'utf8').split('\n').length;
const endings = ['', '.ts', '.tsx', '/index.ts'];

function importsOf(path: string): string[] {
  const found = [...readFileSync(path, 'utf8').matchAll(/(?:from|import\()\s*'(\.[^']+)'/g)];
  return found.flatMap(([, to]) => {
    const base = join(dirname(path), to);
    return endings.map((e) => base + e).filter((p) => existsSync(p) && statSync(p).isFile());
  });
}

/** Every thing that can be reached from itself by the arrows. */
function circlesOf(arrows: Map<string, Set<string>>): string[] {
  const reached = (from: string): Set<string> => {
    const seen = new Set<string>();
    const open = [...(arrows.get(from) ?? [])];
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      if (seen.has(at)) continue;
      seen.add(at);
      open.push(...(arrows.get(at) ?? []));
    }
    return seen;
  };
  return [...arrows.keys()].filter((name) => reached(name).has(name));
}

/** Arrows between the folders of one folder; its own files stand for themselves. */
function folderArrows(folder: string): Map<string, Set<string>> {
  const partOf = (path: string) => path.slice(folder.length + 1).split('/')[0];
  const arrows = new Map<string, Set<string>>();
  for (const path of sources.filter((p) => p.startsWith(`${folder}/`))) {
    for (const to of importsOf(path).filter((p) => p.startsWith(`${folder}/`) && partOf(p) !== partOf(path))) {
      arrows.set(partOf(path), (arrows.get(partOf(path)) ?? new Set()).add(partOf(to)));
    }
  }
  return arrows;
}

describe('the order in the house', () => {
  it('finds a circle where there is one', () => {
    const arrows = new Map([
      ['a', new Set(['b'])],
      ['b', new Set(['c'])],
      ['c', new Set(['b'])],
    ]);
    expect(circlesOf(arrows)).toEqual(['b', 'c']);
  });
  it.each(['core', 'web', 'server', 'worker', 'codecs', 'cli'])('%s: no circles between its folders', (folder) => {
    const arrows = folderArrows(folder);
    expect(circlesOf(arrows)).toEqual([]);
    if (folder === 'core') expect(arrows.size).toBeGreaterThan(10);
  });
  it('names every folder of ours among those that the lint rule knows', () => {
    const tops = new Set(sources.filter((p) => p.includes('/')).map((p) => p.split('/')[0]));
    tops.delete('scripts');
    expect([...tops].sort()).toEqual(Object.keys(mayImport).sort());
  });
  it('has tests at a quarter to a third of its lines', () => {
    const counted = listed.filter((p) => /\.(tsx?|mjs|mts|css|sql)$/.test(p));
    const sum = (paths: string[]) => paths.reduce((total, p) => total + linesOf(p), 0);
    const share = sum(counted.filter(isTest)) / sum(counted);
    expect(share).toBeGreaterThan(0.25);
    expect(share).toBeLessThan(0.34);
  });
});
