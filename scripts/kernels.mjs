// Compiles core/kernels/assembly to WebAssembly and writes it, as text, to core/kernels/binary.ts; and the kernels'
// interface in TypeScript, with the constants they share with the rest of core, to core/kernels/interface.ts. Both are
// made by one command, so a name that is not there, an argument too few or a field left out does not compile.
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format } from 'prettier';
import { projectDir } from './lib/steps.mjs';

const folder = join(projectDir, 'core/kernels/assembly');
const MADE = '// Made from core/kernels/assembly by `npm run kernels`; do not edit.\n';

/** The text of core/kernels/binary.ts as the sources stand. @throws Error with the compiler's messages */
export async function compileKernels() {
  return `${MADE}export const BINARY =\n  '${(await compile()).toString('base64')}';\n`;
}

/** Both texts are of one compiled form. */
let compiled = null;
const compile = () => (compiled ??= compileNow());

async function compileNow() {
  const { default: asc } = await import('assemblyscript/asc');
  let binary = null;
  const flags = ['-O3', '--noAssert', '--runtime', 'stub', '--importMemory', '--enable', 'simd'];
  const places = ['--baseDir', projectDir, '--outFile', 'kernels.wasm'];
  const { error, stderr } = await asc.main(['core/kernels/assembly/index.ts', ...flags, ...places], {
    writeFile: (_name, content) => {
      binary = content;
    },
  });
  if (error || !binary) throw new Error(`The kernels do not compile: ${stderr.toString() || error}`);
  return Buffer.from(binary);
}

/**
 * What each type of AssemblyScript is in TypeScript, how many bytes it takes, how a DataView writes it, and what checks
 * a value before: WebAssembly itself would make a whole number of anything.
 */
const types = {
  i32: { ts: 'number', bytes: 4, write: 'setInt32', check: 'whole' },
  usize: { ts: 'number', bytes: 4, write: 'setInt32', check: 'place' },
  f64: { ts: 'number', bytes: 8, write: 'setFloat64', check: 'real' },
  bool: { ts: 'boolean', bytes: 1, write: 'setInt8', check: 'flag' },
};

const pairs = (text, separator) =>
  text
    .split(separator)
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => part.split(':').map((word) => word.trim()));

// Fields lie as AssemblyScript lays out an unmanaged class: in order, each aligned to its own size.
function layOut(fields) {
  let at = 0;
  const placed = fields.map(([name, type]) => {
    if (!types[type]) throw new Error(`The field ${name}: ${type} has no counterpart in TypeScript.`);
    at = Math.ceil(at / types[type].bytes) * types[type].bytes;
    const field = { name, type, at };
    at += types[type].bytes;
    return field;
  });
  return { fields: placed, bytes: at };
}

/** The text of core/kernels/interface.ts as the sources stand. */
export async function describeKernels() {
  const exported = new Set(WebAssembly.Module.exports(new WebAssembly.Module(await compile())).map((e) => e.name));
  const sources = readdirSync(folder).map((name) => readFileSync(join(folder, name), 'utf8'));
  const structs = new Map();
  const kernels = [];
  for (const text of sources) {
    for (const [, name, body] of text.matchAll(/@unmanaged\n(?:export )?class (\w+) \{([^}]*)\}/g)) {
      structs.set(name, layOut(pairs(body, ';')));
    }
    const head = /((?:\/\*\*(?:(?!\*\/)[\s\S])*\*\/\n)?)export function (\w+)\(([^)]*)\): (\w+)/g;
    for (const [, doc, name, params, result] of text.matchAll(head)) {
      if (exported.has(name)) kernels.push({ doc, name, params: pairs(params, ','), result });
    }
  }
  const constants = sources.flatMap((text) => [
    ...text.matchAll(/((?:\/\*\*(?:(?!\*\/)[\s\S])*\*\/\n)?)export const ([A-Z_0-9]+): i32 = (-?\d+);/g),
  ]);
  const structOf = ({ params }) => (params.length === 1 ? structs.get(params[0][1]) : undefined);
  const typed = ({ name, type }) => `readonly ${name}: ${types[type].ts}`;
  const methods = kernels.map((kernel) => {
    const struct = structOf(kernel);
    const params = struct
      ? `args: { ${struct.fields.map(typed).join('; ')} }`
      : kernel.params.map(([name, type]) => `${name}: ${types[type].ts}`).join(', ');
    return `${kernel.doc}${kernel.name}(${params}): ${kernel.result === 'void' ? 'void' : types[kernel.result].ts};`;
  });
  const checked = (type, value, name) => `${types[type].check}(${value}, '${name}')`;
  const wrappers = kernels
    .filter((kernel) => kernel.params.length > 0)
    .map((kernel) => {
      const struct = structOf(kernel);
      const end = kernel.result === 'bool' ? ' !== 0' : '';
      if (!struct) {
        const names = kernel.params.map(([name]) => name);
        const values = kernel.params.map(([name, type]) => checked(type, name, `${kernel.name}: ${name}`));
        return `${kernel.name}: (${names.join(', ')}) => raw.${kernel.name}(${values.join(', ')})${end},`;
      }
      const writes = struct.fields.map(({ name, type, at }) => {
        const value = checked(type, `a.${name}`, `${kernel.name}: ${name}`);
        return `v.${types[type].write}(at + ${at}, ${value}${types[type].bytes > 1 ? ', true' : ''});`;
      });
      return `${kernel.name}: (a) => { const v = view(); ${writes.join(' ')} return raw.${kernel.name}(at)${end}; },`;
    });
  const room = Math.max(...[...structs.values()].map((s) => s.bytes));
  return format(
    `${MADE}
${constants.map(([, doc, name, value]) => `${doc}export const ${name} = ${value};`).join('\n')}

/** Bytes that the largest struct of arguments takes. */
export const ARGUMENT_BYTES = ${room};

/**
 * The kernels: places are addresses in their memory, counts and coordinates whole numbers unless their sources say
 * otherwise.
 */
export interface Kernels {
${methods.join('\n')}
}

/** The kernels as WebAssembly exports them: numbers in, a number out. */
export type RawKernels = Readonly<Record<string, (...args: number[]) => number>>;

/**
 * The kernels with their arguments by name, each checked.
 * @param view  of the kernels' memory as it is now: it moves when the memory grows
 * @param at    where ARGUMENT_BYTES lie that nothing else uses; a multiple of 8
 * @param isPlace  whether an address lies where arrays are handed out
 */
export function bindKernels(
  raw: RawKernels,
  view: () => DataView,
  at: number,
  isPlace: (address: number) => boolean,
): Kernels {
  const refuse = (name: string, expected: string, value: unknown): never => {
    throw new Error(\`The kernel \${name} is given \${String(value)}: \${expected} was expected.\`);
  };
  const whole = (v: number, name: string) => ((v | 0) === v ? v : refuse(name, 'a whole number of 32 bits', v));
  // 0 stands for an array that is not there.
  const place = (v: number, name: string) =>
    Number.isInteger(v) && (v === 0 || isPlace(v)) ? v : refuse(name, 'a place in memory', v);
  const real = (v: number, name: string) => (v === v ? v : refuse(name, 'a number', v));
  const flag = (v: boolean, _name: string) => Number(v);
  return {
    ...(raw as unknown as Kernels),
    ${wrappers.join('\n')}
  };
}
`,
    { parser: 'typescript', printWidth: 120, singleQuote: true, trailingComma: 'all' },
  );
}

if (process.argv[1].endsWith('kernels.mjs')) {
  writeFileSync(join(projectDir, 'core/kernels/binary.ts'), await compileKernels());
  writeFileSync(join(projectDir, 'core/kernels/interface.ts'), await describeKernels());
}
