import type { Piece, UnitUse } from '../document/document.js';
import { joinKeys, keyOf } from '../numeric/key.js';
import { withElements } from '../part/elements.js';
import { singleSlots } from '../part/split.js';
import { type Made, madeOf } from '../unit/carriers.js';
import { joinMade } from '../unit/join-made.js';
import { knownUnit } from '../unit/registry.js';
import type { BuildContext, Cost, Unit } from '../unit/unit.js';
import { contextOf, lineOf, namedKeys, run, type StageResult, type UnitWorld, unknownUnit } from './line.js';
import { builtAlong, isRegional } from './regional.js';
import type { World } from './world.js';

/** Most vertices of one piece: about a gigabyte in the next program. */
export const MAX_VERTICES = 12_000_000;

export interface MadePiece {
  made: Made;
  findings: StageResult<Made>['findings'];
  /** As it was built: less than asked for where that would have been too much. */
  density: number;
  key: string;
}

/** What runs along a piece at a density. */
export function madeOfPiece(world: World, piece: Piece, density: number, most = MAX_VERTICES): MadePiece {
  const name = `${piece.id} ${density} ${most}`;
  const known = world.mades.get(name);
  if (known) return known;
  const line = lineOf(world, piece);
  const key = joinKeys(
    line.key,
    keyOf(piece.make),
    ...namedKeys(world, piece, piece.make),
    String(density),
    String(most),
    keyOf(piece.elements ?? null),
  );
  const kept = world.cache.keep<StageResult<Made> & { density: number }>(
    piece.id,
    `make ${density}`,
    key,
    world,
    (old) => build(world, piece, piece.make, density, most, old?.output),
  );
  const { output, findings, density: used } = kept.value;
  const made = { made: output, findings, density: used, key: kept.key };
  world.mades.set(name, made);
  return made;
}

/** What a piece would have at a density, before any of it is made; undefined where its unit cannot say. */
function costOf(world: World, piece: Piece, density: number): StageResult<Cost | undefined> {
  const { unit: id, parameters } = piece.make;
  const unit = knownUnit('make', id) as Unit<'make'> | undefined;
  const { curves } = lineOf(world, piece);
  return run<Cost | undefined>(contextOf(world, piece), density, undefined, (context) => {
    // what is wrong with it is reported when it is built
    const silent: BuildContext = Object.assign(Object.create(context) as BuildContext, { report: () => undefined });
    return (
      unit?.cost &&
      builtAlong<Cost>(
        unit,
        parameters,
        curves,
        world.region,
        (lines, values) => unit.cost!(lines, values, silent),
        joinCosts,
      )
    );
  });
}

function build(
  world: World,
  piece: Piece,
  use: UnitUse,
  asked: number,
  most: number,
  old: Made | undefined,
): StageResult<Made> & { density: number } {
  const { curves } = lineOf(world, piece);
  const unit = knownUnit('make', use.unit) as Unit<'make'> | undefined;
  const nothing = madeOf(curves);
  if (!unit) return { output: nothing, findings: [unknownUnit('make', use)], density: asked };
  const base = contextOf(world, piece);
  let density = asked;
  const first = costOf(world, piece, asked);
  const cost = first.output;
  const findings = [...first.findings];
  const held = cost?.held ?? cost?.vertices ?? 0;
  if (cost && held > most) {
    density = asked * (most / held);
    findings.push({
      code: 'too-heavy',
      severity: 'warning',
      message: `Needs ${figure(cost.vertices)} vertices (${figure(cost.bytes / 2 ** 20)} MB, limit ${figure(most)} vertices): made coarser. Reduce its resolution.`,
      size: { value: cost.vertices, limit: most, kind: 'count' },
    });
  }
  const made = run(
    Object.assign(Object.create(base) as UnitWorld, {
      // what is built line by line must not be written into one old mesh
      spare: isRegional(unit.parameters, use.parameters) ? undefined : old?.parts,
    }),
    density,
    nothing,
    (context) => {
      const made = builtAlong(
        unit,
        use.parameters,
        curves,
        world.region,
        (lines, values) => unit.build(lines, values, context),
        joinMade,
      );
      return withElements(singleSlots(made), base.edits, world.surroundings);
    },
  );
  return { output: made.output, findings: [...findings, ...made.findings], density };
}

const joinCosts = (all: Cost[]): Cost =>
  all.reduce((sum, one) => ({
    vertices: sum.vertices + one.vertices,
    bytes: sum.bytes + one.bytes,
    held: (sum.held ?? sum.vertices) + (one.held ?? one.vertices),
    strands: (sum.strands ?? 0) + (one.strands ?? 0),
  }));

const figure = (value: number): string => Math.round(value).toLocaleString('en');
