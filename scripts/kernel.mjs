// npm run kernel: compiles the AssemblyScript of packages/core/kernel and writes each, as text, to where the core takes it from.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './root.mjs';

/** Source and generated file of each kernel. */
export const KERNELS = [
  ['packages/core/kernel/sweep.as.ts', 'packages/core/src/sweep/kernel/binary.ts'],
  ['packages/core/kernel/lines.as.ts', 'packages/core/src/curve/kernel/binary.ts'],
  ['packages/core/kernel/roots.as.ts', 'packages/core/src/path/roots/binary.ts'],
  ['packages/core/kernel/grown.as.ts', 'packages/core/src/path/grown/binary.ts'],
  ['packages/core/kernel/truss.as.ts', 'packages/core/src/make/truss/binary.ts'],
];

/** The text of the file generated from `source`. */
export async function compileKernel(source) {
  const { default: asc } = await import('assemblyscript/asc');
  const { binary, error, stderr } = await asc.compileString(
    { 'kernel.ts': readFileSync(join(root, source), 'utf8') },
    { optimizeLevel: 3, shrinkLevel: 0, noAssert: true, runtime: 'stub', enable: ['simd'], initialMemory: 16 },
  );
  if (error) throw new Error(`${source} does not compile:\n${stderr.toString()}`);
  const text = Buffer.from(binary).toString('base64');
  return `// Written by \`npm run kernel\` from ${source}.\nexport const KERNEL =\n  '${text}';\n`;
}

if (import.meta.filename === process.argv[1])
  for (const [source, target] of KERNELS) writeFileSync(join(root, target), await compileKernel(source));
