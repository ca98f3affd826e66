// npm run kernel: compiles packages/core/kernel/sweep.as.ts and writes it, as text, to where the core takes it from.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './root.mjs';

const source = 'packages/core/kernel/sweep.as.ts';
const target = 'packages/core/src/sweep/kernel/binary.ts';

/** The text of the generated file. */
export async function compileKernel() {
  const { default: asc } = await import('assemblyscript/asc');
  const { binary, error, stderr } = await asc.compileString(
    { 'sweep.ts': readFileSync(join(root, source), 'utf8') },
    { optimizeLevel: 3, shrinkLevel: 0, noAssert: true, runtime: 'stub', enable: ['simd'], initialMemory: 16 },
  );
  if (error) throw new Error(`${source} does not compile:\n${stderr.toString()}`);
  const text = Buffer.from(binary).toString('base64');
  return `// Written by \`npm run kernel\` from ${source}.\nexport const KERNEL =\n  '${text}';\n`;
}

if (import.meta.filename === process.argv[1]) writeFileSync(join(root, target), await compileKernel());
