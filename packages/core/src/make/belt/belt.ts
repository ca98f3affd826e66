import { curveCount } from '../../curve/curve-set.js';
import { type Mesh, vertexCount } from '../../mesh/mesh.js';
import { riddenPlaces } from '../../motion/moved.js';
import { childId, hashText } from '../../numeric/random.js';
import { roundedBoxSection, type Section, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { type Made, type Mark, madeOf, type Part, type SweptBody } from '../../unit/carriers.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { rollerReach } from '../chain/rollers.js';
import { figuresOf } from './figures.js';
import { reportExact, reportJumps, reportMet, reportOpen, reportTeeth } from './findings.js';
import { BAND, chainOf, FLANK, rollerOf, SLAT, stepMeshes, toothDeep } from './links.js';
import { guardOutline, panelOutline, plateMesh } from './panel.js';
import { BELT, type BeltKind } from './parameters.js';
import { type BeltLines, type BeltRail, beltLines } from './rails.js';
import { riding } from './riding.js';
import { type BeltSteps, stepsOf } from './steps.js';
import { wheelsOf } from './wheels.js';

export type BeltChoice = ValuesOf<typeof BELT>;

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;

export const belt = defineUnit({
  stage: 'make',
  id: 'belt',
  label: 'Belt',
  purpose: 'Belts, chains, tracks and conveyors round wheels: they run with the clock, with what rides on them.',
  shelf: 'elements',
  outfits: [
    { id: 'conveyor', label: 'Conveyor', wears: { main: { unit: 'patterned', preset: 'grained-rubber' }, wheels: { unit: 'patterned', preset: 'brushed-steel' }, panel: { unit: 'plain', preset: 'green-paint' } } },
    { id: 'canvas', label: 'Canvas', wears: { main: { unit: 'patterned', preset: 'webbing' }, wheels: { unit: 'plain', preset: 'timber' }, slats: { unit: 'plain', preset: 'timber' } } },
    { id: 'drive', label: 'Drive belt', wears: { main: { unit: 'patterned', preset: 'ribbed-hose' }, wheels: { unit: 'plain', preset: 'steel' }, panel: { unit: 'plain', preset: 'orange-jacket' } } },
  ], // biome-ignore format: a line each
  parameters: BELT,
  presets: [
    { id: 'flat-belt', label: 'Flat belt', parameters: {} },
    { id: 'v-belt', label: 'V-belt', parameters: { kind: 'vee', width: 0.013, thickness: 0.008, face: 1.9, spokes: 4 } },
    { id: 'toothed-belt', label: 'Toothed belt', parameters: { kind: 'toothed', width: 0.025, thickness: 0.005, wheel: 'disc' } },
    { id: 'roller-drive', label: 'Chain drive', parameters: { kind: 'roller', width: 0.0078, thickness: 0.0085, wheel: 'disc', face: 0.85, hub: 0.3 } },
    { id: 'track', label: 'Track', parameters: { kind: 'shoes', width: 0.3, thickness: 0.02, pitch: 0.1, face: 0.8, spokes: 6 } },
    { id: 'slat-conveyor', label: 'Slat conveyor', parameters: { kind: 'slats', width: 0.5, thickness: 0.03, pitch: 0.08, face: 0.92, wheel: 'disc' } },
  ], // biome-ignore format: a line each
  slots: [
    { id: 'wheels', label: 'Wheels', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'slats', label: 'Slats', wears: { unit: 'plain', preset: 'timber' } },
    { id: 'panel', label: 'Panel', wears: { unit: 'plain', preset: 'green-paint' } },
    { id: 'riders', label: 'On the belt' },
  ],
  sample: {
    path: ['wheels', { wheels: [{ id: 'a', position: [-0.1, 0.06, 0] }, { id: 'b', position: [0.1, 0.06, 0], radius: 0.035 }], radius: 0.055 }],
    parameters: { width: 0.03, thickness: 0.004 },
  }, // biome-ignore format: one line
  // how far it keeps its line off the wheels: all of it that is on their side
  thickness: (p) => reachOf(p).below,
  breadth: (p) => Math.max(reachOf(p).below, broadOf(p) / 2),
  cost(input, p, context) {
    const lines = beltLines(input, context.density);
    let vertices = 0;
    for (const part of partsOf(lines, p, context).parts)
      vertices += part.kind === 'placed' ? part.places.id.length * vertexCount(part.mesh) : part.kind === 'mesh' ? vertexCount(part.mesh) : 0;
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  describe: ({ kind, width }, length) => `${KIND_NAMES[kind] ?? kind}, ${length(width)} wide`,
  build(input, p, context): Made {
    const lines = beltLines(input, context.density);
    const { rails } = lines;
    const steps = rails.map((rail) => stepsOf(rail, p));
    reportOpen(rails, p, context);
    reportExact(steps, p, context);
    reportTeeth(rails, steps, p, context);
    reportJumps(rails, steps, p, context);
    reportMet(rails, p, context);
    const { parts, motion, marks } = partsOf(lines, p, context);
    return madeOf(lines.lines, { parts, motion, marks, bodies: bodiesOf(lines, p), ...figuresOf(rails, steps, p) });
  },
}); // biome-ignore format: its longest lines in one

const KIND_NAMES: Record<string, string> = Object.fromEntries(
  BELT.kind.options.map(({ value, label }) => [value, label]),
);

/** Half the thickness of its band, or of what stands for it. */
function halfOf({ kind, thickness, pitch }: BeltChoice): number {
  if (kind === 'roller') return rollerOf(pitch);
  return bandOf({ kind, thickness }) / 2;
}

/** The band's own thickness. */
const bandOf = ({ kind, thickness }: Pick<BeltChoice, 'kind' | 'thickness'>): number =>
  kind === 'toothed' ? BAND * thickness : kind === 'slats' ? (1 - SLAT) * thickness : thickness;

/** All its breadth: a chain's plates and pins stand beside its rollers. */
const broadOf = (p: BeltChoice): number =>
  p.kind === 'roller' ? 2 * rollerOf(p.pitch) * rollerReach(chainOf(p)).x : p.width;

/** How far what runs reaches inwards from its line, and outwards. */
export function reachOf(p: BeltChoice): { below: number; over: number } {
  const half = halfOf(p);
  if (p.kind === 'roller') {
    const plates = rollerReach(chainOf(p)).y * half;
    return { below: plates, over: plates };
  }
  if (p.kind === 'toothed') return { below: half + toothDeep(p), over: half };
  return p.kind === 'slats' ? { below: half, over: half + SLAT * p.thickness } : { below: half, over: p.kind === 'shoes' ? 1.1 * p.thickness : half };
} // biome-ignore format: its longest line in one

function partsOf({ lines, frames, rails }: BeltLines, p: BeltChoice, context: BuildContext): Pick<Made, 'parts' | 'motion' | 'marks'> {
  const { density } = context;
  const sides = Math.max(12, Math.round(p.sides * density));
  const parts: Part[] = [];
  const motion: Made['motion'] = [];
  const marks: Mark[] = [];
  if (p.kind !== 'roller' && p.kind !== 'shoes')
    parts.push({ kind: 'mesh', id: 'band', name: 'Band', slot: 'main', mesh: sweep(lines, bandSection(p), { radius: bandOf(p) / 2, frames, limited: true }) });
  const meshes = stepMeshes({ ...p, kind: p.kind as BeltKind, sides });
  const [only] = rails;
  const travel = rails.length === 1 && only.closed ? stepsOf(only, p).travel : 0;
  if (travel !== 0 && parts.length > 0) motion.push({ kind: 'slide', part: 'band', travel });
  rails.forEach((rail, c) => {
    const steps = stepsOf(rail, p);
    const tail = rails.length > 1 ? `-${c + 1}` : '';
    for (const one of meshes) {
      const first = Float32Array.from({ length: Math.floor(steps.count / 2) * one.at.length + (steps.count % 2) * Number(one.at[0] === 0) }, (_, n) => 2 * Math.floor(n / one.at.length) + one.at[n % one.at.length]);
      addRiding({ id: `${one.id}${tail}`, name: one.name, slot: one.slot, mesh: one.mesh, first, of: steps.count, on: onOf(rail, steps, steps.count), span: one.spans ? steps.length / steps.count : 0 }, rail, c, lines.id[c], parts, motion);
    }
    for (const one of riding(steps, reachOf(p).over, p, context, lines.id[c]))
      addRiding({ ...one, id: `${one.id}${tail}`, slot: 'riders', of: steps.riders, on: onOf(rail, steps, steps.riders), span: 0 }, rail, c, lines.id[c], parts, motion);
    const wheels = wheelsOf(rail, steps, p, sides);
    for (const { part, track, name } of wheels) {
      const id = `${name}${tail}`;
      if (part) parts.push({ ...part, id });
      if (track) motion.push({ ...track, part: id });
    }
    parts.push(...platesOf(rail, p, tail));
    const place = steps.riders || steps.count;
    if (place > 0) marks.push(marksOf(steps, place, c, lines.id[c]));
  });
  return { parts, motion, marks };
} // biome-ignore format: its longer lines in one

/** How many of so many steps it goes on in a loop of the clock. */
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
  on: number;
  span: number;
}

function addRiding({ id, name, slot, mesh, first, local: own, of, on, span, ...further }: Riding, { rail }: BeltRail, c: number, line: number, parts: Part[], motion: Made['motion']): void {
  if (first.length === 0 || of === 0) return;
  const local = own ?? Float32Array.from({ length: 16 * first.length }, (_, i) => (i % 16 % 5 === 0 ? 1 : 0));
  const track = { kind: 'ride' as const, rail, of, first, id: Uint32Array.from(first, (step) => childId(line, step)), steps: on, local, span, ...further };
  const places = riddenPlaces(track, 0, c);
  parts.push({ kind: 'placed', id, name, slot, mesh, places });
  if (on !== 0) motion.push({ ...track, part: id });
} // biome-ignore format: its head in one line

const ELEMENT = hashText('belt');

function marksOf({ length, riders }: BeltSteps, count: number, c: number, line: number): Mark {
  const steps = Array.from({ length: count }, (_, k) => k);
  return {
    kind: 'element',
    label: riders > 0 ? 'On the belt' : 'Steps',
    along: Float32Array.from(steps, (k) => (k / count) * length),
    curve: new Uint32Array(count).fill(c),
    id: Uint32Array.from(steps, (k) => childId(childId(line, ELEMENT), k)),
  };
}

function bandSection(p: BeltChoice): Section {
  const half = bandOf(p) / 2;
  const wide = p.width / 2 / half;
  if (p.kind !== 'vee') return roundedBoxSection(p.kind === 'slats' ? 0.9 * wide : wide, 0.5, 2);
  const narrow = Math.max(0.15 * wide, wide - 2 * Math.tan(FLANK));
  const [x, y] = [[1, 1, -1, -1], [-wide, wide, narrow, -narrow]];
  return sectionFromOutline(Float64Array.from(x), Float64Array.from(y), { hardAngle: 0.3 });
} // biome-ignore format: its outline in one line

function platesOf(rail: BeltRail, p: BeltChoice, tail: string): Part[] {
  if (p.panel === 'none' || rail.arcs.length < 2) return [];
  const { below, over } = reachOf(p);
  const teeth = p.kind === 'roller' ? rollerOf(p.pitch) : -below;
  const thick = p.plate * p.width;
  const mesh = (outline: [number, number][], low: number) => plateMesh(rail, outline, low, low + thick);
  const clear = (Math.max(1, p.face) * p.width) / 2 + p.gap;
  const made = p.panel === 'inside'
    ? [mesh(panelOutline(rail, below, over, teeth, p.gap), -thick / 2)]
    : [mesh(guardOutline(rail, over + p.gap), clear), mesh(guardOutline(rail, over + p.gap), -clear - thick)];
  return made.flatMap((one, k): Part[] => (one ? [{ kind: 'mesh', id: `${p.panel}-${k + 1}${tail}`, name: p.panel === 'inside' ? 'Panel' : 'Guard', slot: 'panel', mesh: one }] : []));
} // biome-ignore format: its longer lines in one

function bodiesOf({ lines, frames }: BeltLines, p: BeltChoice): SweptBody[] {
  const points = lines.position.length / 3;
  if (curveCount(lines) === 0) return [];
  const half = halfOf(p);
  const wide = p.width / 2 / half;
  const outline = { x: [1, 1, -1, -1], y: [-wide, wide, wide, -wide], ...frames, roll: new Float32Array(points) };
  return [{ id: 'belt', curves: lines, section: { radius: new Float32Array(points).fill(half), least: Math.min(1, wide), outline }, leastBend: 1, limited: true }];
} // biome-ignore format: one body
