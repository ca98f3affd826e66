import { readFileSync } from 'node:fs';
import { basename, extname } from 'node:path';
import {
  type BakedMesh,
  type BakedStrands,
  type BakeSettings,
  joinCurves,
  type Material,
  PER_METRE,
  singleCurve,
  TARGET_UNITS,
} from '@kelp/core';
import { type BakeFormat, type CurveFile, readCurves, readModel, writeBaked } from '@kelp/formats';
import { Command, Option } from 'commander';
import { ENDINGS } from '../bake-options.js';
import { UsageError } from '../exit.js';
import { checkOut, writeWhole } from '../out-file.js';
import { print, printJson } from '../print.js';

const MESHES = /\.(glb|gltf|obj|stl|ply|usda)$/i;
const CURVES = /\.(svg|csv|tsv|txt)$/i;
/** What a file without materials wears. */
const BARE: Material = { name: 'Bare', colour: '#b9c0bb', roughness: 0.6, metalness: 0 };

export const convertCommand = (): Command =>
  new Command('convert')
    .description('Convert meshes or curves to another open format.')
    .argument('<in>', 'meshes: .glb, .gltf, .obj, .stl, .ply, .usda; curves: .svg, .csv, .obj, .glb, .usda')
    .argument('<out>', `output file: ${ENDINGS.join(', ')}`)
    .addOption(new Option('--curves', 'read the curves of an .obj or .glb instead of its meshes'))
    .addOption(
      new Option('--unit <unit>', 'length unit of the input; default: stated in the file, or metres').choices(
        TARGET_UNITS,
      ),
    )
    .option('--json', 'print what was written as one JSON value')
    .action(run);

async function run(
  from: string,
  out: string,
  { curves, unit, json }: { curves?: boolean; unit?: BakeSettings['unit']; json?: boolean },
): Promise<void> {
  checkOut(out, ENDINGS, from);
  if (!MESHES.test(from) && !CURVES.test(from))
    throw new UsageError(
      `${from}: Kelp converts .glb, .gltf, .obj, .stl, .ply, .usda, .svg and .csv files. Use kelp bake for a project.`,
    );
  const format = extname(out).slice(1).toLowerCase() as BakeFormat;
  const bytes = readFileSync(from);
  const name = basename(from);
  const read =
    curves || CURVES.test(from) ? ofCurves(await readCurves(name, bytes), unit) : await ofMeshes(name, bytes, unit);
  if ((format === 'csv' || format === 'svg') && read.meshes.length > 0)
    throw new UsageError(
      `${out}: ${format.toUpperCase()} holds curves, but ${name} was read as meshes. Use another format, or --curves.`,
    );
  if (format === 'stl' && read.strands.length > 0)
    throw new UsageError(
      `${out}: STL holds triangles, but ${name} was read as curves. Use OBJ, GLB, USDA, PLY or CSV.`,
    );
  const written = writeBaked(format, read, name);
  writeWhole(out, written);
  for (const note of read.notes) process.stderr.write(`${note}\n`);
  const counts = {
    meshes: read.meshes.length,
    curves: read.curves,
    triangles: read.meshes.reduce((sum, { mesh }) => sum + mesh.index.length / 3, 0),
    bytes: written.length,
  };
  if (json) printJson(counts);
  else
    print(
      `${out}: ${counts.curves > 0 ? `${counts.curves} curves` : `${counts.meshes} meshes, ${counts.triangles.toLocaleString('en')} triangles`}, ${counts.bytes.toLocaleString('en')} bytes`,
    );
}

interface Read {
  meshes: BakedMesh[];
  strands: BakedStrands[];
  curves: number;
  notes: readonly string[];
}

async function ofMeshes(name: string, bytes: Uint8Array, unit: BakeSettings['unit'] = 'm'): Promise<Read> {
  const { objects, notes } = await readModel(name, bytes);
  const by = 1 / PER_METRE[unit];
  const meshes = objects.map(({ name: called, mesh }) => ({
    name: called,
    mesh: by === 1 ? mesh : { ...mesh, position: mesh.position.map((value) => value * by) },
    material: BARE,
  }));
  return { meshes, strands: [], curves: 0, notes };
}

function ofCurves({ curves, unit: said, notes }: CurveFile, unit?: BakeSettings['unit']): Read {
  const own = TARGET_UNITS.find((one) => one === said);
  const by = 1 / PER_METRE[unit ?? own ?? 'm'];
  const strands = curves.map(
    ({ name, points, closed }, k): BakedStrands => ({
      name,
      material: BARE,
      strands: {
        kind: 'strands',
        id: `curve-${k + 1}`,
        name,
        slot: 'main',
        curves: joinCurves([
          singleCurve(
            points.flatMap(({ position }) => position.map((value) => value * by)),
            { id: k + 1, closed },
          ),
        ]),
        width: new Float32Array(points.length),
        sides: 3,
        shape: 'lines',
      },
    }),
  );
  return { meshes: [], strands, curves: curves.length, notes };
}
