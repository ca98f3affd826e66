import { bake } from '@kelp/core';
import { writeGlb } from '@kelp/formats';
import { Command, InvalidArgumentError } from 'commander';
import { loadProject } from '../load-project.js';
import { memoryOption } from '../memory.js';
import { checkOut, writeWhole } from '../out-file.js';
import { findingLine, print, printJson } from '../print.js';

interface BakeFlags {
  piece?: string;
  density: number;
  memory: number;
  out: string;
  json?: boolean;
}

export const bakeCommand = (): Command =>
  new Command('bake')
    .description('Bake the pieces of a project to one binary glTF file.')
    .argument('<file>', '.kelp archive or .kelp.json')
    .requiredOption('--out <file.glb>', 'where to write the mesh')
    .option('--piece <name>', 'bake this piece alone')
    .option('--density <n>', 'factor on all divisions, 0.05 to 20', density, 1)
    .addOption(memoryOption())
    .option('--json', 'print the report as one JSON value')
    .action(run);

async function run(file: string, { piece, density, memory, out, json }: BakeFlags): Promise<void> {
  checkOut(out, ['.glb'], file);
  const started = performance.now();
  const { document, surfaces } = await loadProject(file);
  const baked = bake(document, surfaces, { piece, density, memory });
  const bytes = await writeGlb(baked.meshes, document.name);
  writeWhole(out, bytes);
  const seconds = (performance.now() - started) / 1000;
  const pieces = baked.pieces.map(({ name, length, triangles, vertices, findings }) => ({
    name,
    length,
    triangles,
    vertices,
    findings,
  }));
  if (json) return printJson({ pieces, bytes: bytes.length, seconds });
  for (const { name, length, triangles, findings } of pieces) {
    print(`${name}: ${length.toFixed(3)} m, ${triangles.toLocaleString('en')} triangles`);
    for (const finding of findings) print(`  ${findingLine(name, finding)}`);
  }
  print(`${out}: ${bytes.length.toLocaleString('en')} bytes in ${seconds.toFixed(2)} s`);
}

function density(text: string): number {
  const value = Number(text);
  if (!(value >= 0.05 && value <= 20)) throw new InvalidArgumentError('It must be a number from 0.05 to 20.');
  return value;
}
