import type { Mesh } from '../../mesh/mesh.js';
import { riddenPlaces } from '../../motion/moved.js';
import { childId, hashText } from '../../numeric/random.js';
import { roundedBoxSection, type Section, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Made, Part } from '../../unit/carriers.js';
import type { BuildContext } from '../../unit/unit.js';
import type { BeltChoice } from './belt.js';
import { FLANK, rollerOf, type StepMesh, stepMeshes } from './links.js';
import { guardOutline, panelOutline, plateMesh } from './panel.js';
import type { BeltKind } from './parameters.js';
import type { BeltLines, BeltRail } from './rails.js';
import { ridersOf, riding } from './riding.js';
import { bandOf, reachOf } from './sizes.js';
import { type BeltSteps, stepsOf } from './steps.js';
import { wheelsOf } from './wheels.js';

/** What a build comes to, gathered line by line. */
type Running = Pick<Made, 'parts' | 'motion' | 'marks'>;

/** One of its lines with what runs along it. */
interface RunningLine {
  rail: BeltRail;
  steps: BeltSteps;
  /** Number among the lines, its id, and what the ids of its parts end in. */
  curve: number;
  id: number;
  tail: string;
}

/** All that is seen of it, and how that moves with the clock. */
export function partsOf({ lines, frames, rails }: BeltLines, p: BeltChoice, context: BuildContext): Running {
  const out: Running = { parts: [], motion: [], marks: [] };
  const sides = Math.max(12, Math.round(p.sides * context.density));
  addBand({ lines, frames, rails }, p, out);
  const meshes = stepMeshes({ ...p, kind: p.kind as BeltKind, sides });
  const riders = ridersOf(p, context);
  rails.forEach((rail, curve) => {
    const tail = rails.length > 1 ? `-${curve + 1}` : '';
    const line: RunningLine = { rail, steps: stepsOf(rail, p), curve, id: lines.id[curve], tail };
    for (const one of meshes) addSteps(one, line, out);
    for (const one of riding(line.steps, riders, reachOf(p).over, p, line.id))
      addRiding({ ...one, slot: 'riders', of: line.steps.riders, span: 0 }, line, out);
    for (const { part, track, name } of wheelsOf(rail, line.steps, p, sides)) {
      const id = `${name}${tail}`;
      if (part) out.parts.push({ ...part, id });
      if (track) out.motion.push({ ...track, part: id });
    }
    out.parts.push(...platesOf(rail, p, tail));
    addMarks(line, out);
  });
  return out;
}

/** The band, where there is one; its texture runs with it where it is the only one. */
function addBand({ lines, frames, rails }: BeltLines, p: BeltChoice, { parts, motion }: Running): void {
  if (p.kind === 'roller' || p.kind === 'shoes') return;
  const mesh = sweep(lines, bandSection(p), { radius: bandOf(p) / 2, frames, limited: true });
  parts.push({ kind: 'mesh', id: 'band', name: 'Band', slot: 'main', mesh });
  const [only] = rails;
  const travel = rails.length === 1 && only.closed ? stepsOf(only, p).travel : 0;
  if (travel !== 0) motion.push({ kind: 'slide', part: 'band', travel });
}

/** What it consists of, step by step: one mesh stands at some steps of each two. */
function addSteps({ id, name, slot, mesh, at, spans }: StepMesh, line: RunningLine, out: Running): void {
  const { count, length } = line.steps;
  const many = Math.floor(count / 2) * at.length + (count % 2) * Number(at[0] === 0);
  const first = Float32Array.from({ length: many }, (_, n) => 2 * Math.floor(n / at.length) + at[n % at.length]);
  addRiding({ id, name, slot, mesh, first, of: count, span: spans ? length / count : 0 }, line, out);
}

/** How many of this many steps it goes on in a loop of the clock. */
const onOf = ({ closed }: BeltRail, { travel, length }: BeltSteps, of: number): number =>
  closed && of > 0 ? tidy((travel / length) * of) : 0;

/** A number that is whole but for rounding, whole. */
const tidy = (value: number): number => (Math.abs(value - Math.round(value)) < 1e-6 ? Math.round(value) : value);

interface Riding {
  id: string;
  name: string;
  slot: string;
  mesh: Mesh;
  first: Float32Array;
  local?: Float32Array;
  colour?: Float32Array;
  above?: number;
  of: number;
  span: number;
}

function addRiding(
  riding: Riding,
  { rail, steps, curve, id: line, tail }: RunningLine,
  { parts, motion }: Running,
): void {
  const { id, name, slot, mesh, first, local: own, of, span, ...further } = riding;
  if (first.length === 0 || of === 0) return;
  const local = own ?? Float32Array.from({ length: 16 * first.length }, (_, i) => ((i % 16) % 5 === 0 ? 1 : 0));
  const on = onOf(rail, steps, of);
  const ids = Uint32Array.from(first, (step) => childId(line, step));
  const track = { kind: 'ride' as const, rail: rail.rail, of, first, id: ids, steps: on, local, span, ...further };
  parts.push({ kind: 'placed', id: `${id}${tail}`, name, slot, mesh, places: riddenPlaces(track, 0, curve) });
  if (on !== 0) motion.push({ ...track, part: `${id}${tail}` });
}

const ELEMENT = hashText('belt');

function addMarks({ steps: { length, riders, count: all }, curve, id }: RunningLine, { marks }: Running): void {
  const count = riders || all;
  if (count === 0) return;
  const steps = Array.from({ length: count }, (_, k) => k);
  marks.push({
    kind: 'element',
    label: riders > 0 ? 'Riders' : 'Steps',
    along: Float32Array.from(steps, (k) => (k / count) * length),
    curve: new Uint32Array(count).fill(curve),
    id: Uint32Array.from(steps, (k) => childId(childId(id, ELEMENT), k)),
  });
}

function bandSection(p: BeltChoice): Section {
  const half = bandOf(p) / 2;
  const wide = p.width / 2 / half;
  if (p.kind !== 'vee') return roundedBoxSection(p.kind === 'slats' ? 0.9 * wide : wide, 0.5, 2);
  const narrow = Math.max(0.15 * wide, wide - 2 * Math.tan(FLANK));
  const [x, y] = [
    [1, 1, -1, -1],
    [-wide, wide, narrow, -narrow],
  ];
  return sectionFromOutline(Float64Array.from(x), Float64Array.from(y), { hardAngle: 0.3 });
}

function platesOf(rail: BeltRail, p: BeltChoice, tail: string): Part[] {
  if (p.panel === 'none' || rail.arcs.length < 2) return [];
  const { below, over } = reachOf(p);
  const teeth = p.kind === 'roller' ? rollerOf(p.pitch) : -below;
  const thick = p.plate * p.width;
  const mesh = (outline: [number, number][], low: number) => plateMesh(rail, outline, low, low + thick);
  const clear = (Math.max(1, p.face) * p.width) / 2 + p.gap;
  const made =
    p.panel === 'inside'
      ? [mesh(panelOutline(rail, below, over, teeth, p.gap), -thick / 2)]
      : [mesh(guardOutline(rail, over + p.gap), clear), mesh(guardOutline(rail, over + p.gap), -clear - thick)];
  return made.flatMap((one, k): Part[] =>
    one
      ? [
          {
            kind: 'mesh',
            id: `${p.panel}-${k + 1}${tail}`,
            name: p.panel === 'inside' ? 'Panel' : 'Guard',
            slot: 'panel',
            mesh: one,
          },
        ]
      : [],
  );
}
