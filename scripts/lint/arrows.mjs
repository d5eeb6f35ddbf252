// ESLint rules for the order in the house: who may import from whom, and that imports run in no circle.
import { existsSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';
import ts from 'typescript';

/** Which of our folders each may import from beside itself: the arrows of docs/architecture.md. */
export const mayImport = {
  core: [],
  contract: ['core'],
  codecs: ['core'],
  worker: ['core'],
  server: ['core', 'contract', 'codecs', 'demo'],
  web: ['core', 'contract', 'worker'],
  cli: ['core', 'codecs'],
  demo: ['core', 'codecs'],
  bench: ['core', 'codecs', 'demo'],
};
/** These run in the browser, or must run anywhere. */
const withoutNode = ['core', 'contract', 'worker', 'web'];

const isTest = (path) => /\.test\.tsx?$/.test(path);
const topOf = (root, path) => relative(root, path).split(sep)[0];

const visitImports = (check) => {
  const one = (node) => node.source && check(node.source.value, node.source);
  return {
    ImportDeclaration: one,
    ExportNamedDeclaration: one,
    ExportAllDeclaration: one,
    ImportExpression: (node) => node.source.type === 'Literal' && check(node.source.value, node.source),
    TSImportType: (node) => check(node.source?.value ?? node.argument?.literal?.value, node),
  };
};

export const arrows = {
  create({ cwd, filename, report }) {
    const folder = topOf(cwd, filename);
    if (!(folder in mayImport) || isTest(filename) || filename.endsWith('.config.ts')) return {};
    return visitImports((source, node) => {
      if (typeof source !== 'string') return;
      if (source.startsWith('node:') && withoutNode.includes(folder)) {
        report({ node, message: `${folder} runs where there is no Node.` });
      }
      if (!source.startsWith('.')) return;
      const other = topOf(cwd, resolve(dirname(filename), source));
      if (other !== folder && !mayImport[folder].includes(other)) {
        report({
          node,
          message: `${folder} may not import from ${other}: imports point one way, see docs/architecture.md.`,
        });
      }
    });
  },
};

const ENDINGS = ['', '.ts', '.tsx', '.mjs', '/index.ts'];
const importsOf = new Map();

/** The files of ours that a file imports, types included. */
function imports(file) {
  const { mtimeMs } = statSync(file);
  const known = importsOf.get(file);
  if (known?.mtimeMs === mtimeMs) return known.files;
  const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'), true, true);
  const files = importedFiles
    .filter((i) => i.fileName.startsWith('.'))
    .map((i) =>
      ENDINGS.map((e) => join(dirname(file), i.fileName) + e).find((p) => existsSync(p) && statSync(p).isFile()),
    )
    .filter((path) => path && /\.(tsx?|mjs)$/.test(path));
  importsOf.set(file, { mtimeMs, files });
  return files;
}

/** The shortest way along imports from one file to another, or null. */
export function wayBetween(from, to) {
  const before = new Map([[from, null]]);
  for (const queue = [from]; queue.length > 0;) {
    const at = queue.shift();
    if (at === to) {
      const way = [];
      for (let step = at; step; step = before.get(step)) way.unshift(step);
      return way;
    }
    for (const next of imports(at)) {
      if (before.has(next)) continue;
      before.set(next, at);
      queue.push(next);
    }
  }
  return null;
}

export const noCircles = {
  create({ cwd, filename, report }) {
    return visitImports((source, node) => {
      if (typeof source !== 'string' || !source.startsWith('.')) return;
      const base = resolve(dirname(filename), source);
      const target = ENDINGS.map((e) => base + e).find((p) => existsSync(p) && statSync(p).isFile());
      if (!target || !/\.(tsx?|mjs)$/.test(target)) return;
      const way = wayBetween(target, filename);
      if (way) report({ node, message: `A circle of imports: ${way.map((p) => relative(cwd, p)).join(' → ')}.` });
    });
  },
};
