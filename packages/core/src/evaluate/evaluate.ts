import type { CurveSet } from '../curve/curve-set.js';
import { isOwnDress, type Piece, type SlotDress } from '../document/document.js';
import { MAIN_SLOT } from '../document/edit.js';
import type { Track } from '../motion/track.js';
import { joinKeys, keyOf } from '../numeric/key.js';
import type { Dressed, Made, Mark, Material, Part, Rim, Table } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';
import { knownUnit, presetParameters, unitOf } from '../unit/registry.js';
import { checkPiece } from './checks.js';
import { gatherFindings, notIgnored } from './gather.js';
import { contextOf, lineOf, namedKeys, run, type StageResult, unknownUnit } from './line.js';
import { MAX_VERTICES, madeOfPiece } from './made.js';
import { type Measures, measure } from './measures.js';
import type { World } from './world.js';

export interface EvaluateOptions {
  /** Factor on all divisions; multiplies the piece's own. Default 1. */
  density?: number;
  /** Most vertices: above it the piece is made coarser, and says so. */
  most?: number;
}

/** All that is known about one piece once it is computed. */
export interface Build {
  piece: string;
  name: string;
  /** The lines that the strip, the pens and the followers ride on. */
  guide: CurveSet;
  made: Made;
  parts: Part[];
  materials: Record<string, Material>;
  marks: Mark[];
  rims: Rim[];
  tables: Table[];
  motion: Track[];
  findings: Finding[];
  measures: Measures;
  /** The curves as they are after the path and after each shape operation; the last alone where each piece is made once. */
  stages: CurveSet[];
}

/**
 * Computes one piece of a document. Never throws for what a user can do: what cannot be made is a finding.
 * Each stage is kept under a key of all that it depends on and with what it asked of the props, so that a changed twist
 * does not lay the line on its prop again and a prop that moves far away changes nothing.
 * Curves, pieces and their units must be replaced where they change, never written to: they are known by identity.
 * The meshes of a build hold until the next build of the same piece, which may use their memory again.
 * @throws KelpError CANCELLED where a unit was asked to stop
 */
export function evaluatePiece(world: World, piece: Piece, options: EvaluateOptions = {}): Build {
  const { cache, surroundings } = world;
  const density = (options.density ?? 1) * piece.bake.density;
  const line = lineOf(world, piece);
  const made = madeOfPiece(world, piece, density, options.most ?? MAX_VERTICES);
  const dressed = dress(world, piece, made.made, made.key, density);
  const checked = cache.keep(piece.id, `check ${density}`, made.key, world, () =>
    checkPiece(piece, made.made, surroundings, world),
  ).value;
  const found = [...line.findings, ...made.findings, ...dressed.findings, ...checked];
  const findings = gatherFindings(notIgnored(piece, found));
  const measures = cache.keep(piece.id, `measure ${density}`, made.key, world, () => measure(made.made)).value;
  const { guide, marks, rims, tables, motion } = made.made;
  return {
    piece: piece.id,
    name: piece.name,
    guide,
    made: made.made,
    parts: dressed.output.parts,
    materials: dressed.output.materials,
    marks,
    rims,
    tables,
    motion,
    findings,
    measures,
    stages: line.stages,
  };
}

/** Every slot in what it wears. */
function dress(world: World, piece: Piece, made: Made, makeKey: string, density: number): StageResult<Dressed> {
  const slots = [...new Set(made.parts.map(({ slot }) => slot))];
  const worn = new Map(slots.map((slot) => [slot, wornBy(world, piece, slot)]));
  const key = joinKeys(
    makeKey,
    ...[...worn].map(([slot, use]) =>
      [slot, keyOf(use), ...('unit' in use ? namedKeys(world, piece, use) : [])].join(' '),
    ),
  );
  return world.cache.keep<StageResult<Dressed>>(piece.id, `dress ${density}`, key, world, () => {
    const bySlot = new Map(slots.map((slot) => [slot, dressSlot(world, piece, made, slot, density)]));
    // in the order in which they were made
    const next = new Map([...bySlot].map(([slot, { output }]) => [slot, output.parts.values()]));
    return {
      output: {
        parts: made.parts.flatMap(({ slot }) => next.get(slot)?.next().value ?? []),
        materials: Object.fromEntries([...bySlot].map(([slot, { output }]) => [slot, output.material])),
      },
      findings: [...bySlot.values()].flatMap(({ findings }) => findings),
    };
  }).value;
}

const BARE: Material = { name: 'Bare', colour: '#9aa39d', roughness: 0.7, metalness: 0 };

function dressSlot(world: World, piece: Piece, made: Made, slot: string, density: number) {
  const parts = made.parts.filter((part) => part.slot === slot);
  const bare = { parts, material: BARE };
  const use = wornBy(world, piece, slot);
  if (!('unit' in use))
    return {
      output: bare,
      findings: [
        {
          code: 'material-missing',
          severity: 'warning' as const,
          message: `The material of ${slot} is missing from the project. Choose another one.`,
        },
      ],
    };
  const unit = knownUnit('dress', use.unit);
  if (!unit) return { output: bare, findings: [unknownUnit('dress', use)] };
  // a material of the project names what the piece itself does not
  const context = Object.assign(contextOf(world, piece), { picture: world.picture });
  return run(context, density, bare, (asked) => unit.build(parts, use.parameters, asked));
}

/** The dressing of a slot: its own, one of the project, what the make unit gives it, or what the main slot wears. */
function wornBy(world: World, piece: Piece, slot: string): SlotDress {
  const own: SlotDress | undefined = piece.dress[slot];
  if (own && !isOwnDress(own)) {
    const named = world.document.materials.find(({ id }) => id === own.material);
    return named?.dress ?? own;
  }
  if (own) return own;
  const wears = knownUnit('make', piece.make.unit)?.slots?.find(({ id }) => id === slot)?.wears;
  if (wears) return { unit: wears.unit, parameters: presetParameters(unitOf('dress', wears.unit), wears.preset) };
  return slot === MAIN_SLOT
    ? { unit: 'plain', parameters: presetParameters(unitOf('dress', 'plain')) }
    : wornBy(world, piece, MAIN_SLOT);
}
