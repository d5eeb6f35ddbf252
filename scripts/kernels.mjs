// Compiles core/kernels/assembly to WebAssembly and writes it, as text, to core/kernels/binary.ts.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { projectDir } from './lib/steps.mjs';

/** The text of core/kernels/binary.ts as the sources stand. @throws Error with the compiler's messages */
export async function compileKernels() {
  const { default: asc } = await import('assemblyscript/asc');
  let binary = null;
  const args = [
    'core/kernels/assembly/index.ts',
    '-O3',
    '--noAssert',
    '--runtime',
    'stub',
    '--importMemory',
    '--enable',
    'simd',
    '--baseDir',
    projectDir,
    '--outFile',
    'kernels.wasm',
  ];
  const { error, stderr } = await asc.main(args, {
    writeFile: (_name, content) => {
      binary = content;
    },
  });
  if (error || !binary) throw new Error(`The kernels do not compile: ${stderr.toString() || error}`);
  return `// Made from core/kernels/assembly by \`npm run kernels\`; do not edit.\nexport const BINARY =\n  '${Buffer.from(binary).toString('base64')}';\n`;
}

if (process.argv[1].endsWith('kernels.mjs'))
  writeFileSync(join(projectDir, 'core/kernels/binary.ts'), await compileKernels());
