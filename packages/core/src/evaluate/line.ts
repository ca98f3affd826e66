import { joinCurves } from '../curve/carry.js';
import type { ControlPoints } from '../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import type { DrawnCurve, KelpDocument, Piece, UnitUse } from '../document/document.js';
import { referencesOf, referencesOfUse } from '../document/references.js';
import { KelpError } from '../errors.js';
import { joinKeys, keyOf } from '../numeric/key.js';
import { type AlongValue, greatest } from '../numeric/lane.js';
import { noCurves } from '../path/trace.js';
import type { Finding } from '../unit/finding.js';
import { knownUnit } from '../unit/registry.js';
import type { BuildContext, Stage, Unit } from '../unit/unit.js';
import { atMost, builtAlong } from './regional.js';
import { controlPoints } from './resolve.js';
import type { World } from './world.js';

/** A piece's line after path and shape. */
export interface Line {
  curves: CurveSet;
  /** Changes whenever the line may have changed. */
  key: string;
  findings: Finding[];
  /**
   * The curves as they are after the path and after each shape operation; switched-off ones repeat the one before. Where
   * each piece is made once, only those after the last operation.
   */
  stages: CurveSet[];
}

export interface StageResult<T> {
  output: T;
  findings: Finding[];
}

/** The line of a piece; those of the pieces it follows are computed before it, one after the other. */
export function lineOf(world: World, piece: Piece): Line {
  const waiting = [piece];
  const open = new Set<string>();
  for (let next = waiting.at(-1); next; next = waiting.at(-1)) {
    if (!world.lines.has(next.id) && !open.has(next.id)) {
      open.add(next.id);
      const first = world.followed(next).filter(({ id }) => !world.lines.has(id) && !open.has(id));
      waiting.push(...first);
      if (first.length > 0) continue;
    }
    waiting.pop();
    if (!world.lines.has(next.id)) world.lines.set(next.id, evaluateLine(world, next));
  }
  return world.lines.get(piece.id)!;
}

function evaluateLine(world: World, piece: Piece): Line {
  const { cache, document } = world;
  const context = contextOf(world, piece);
  const { thickness, breadth } = context;
  const size = joinKeys(keyOf(thickness), keyOf(breadth));
  const used = referencesOf(piece).curves.flatMap((id) => world.curve(id) ?? []);
  const build = (stage: 'path' | 'shape', use: UnitUse, input: CurveSet | undefined): StageResult<CurveSet> => {
    const unit = knownUnit(stage, use.unit) as Unit<'shape'> | undefined;
    const fallback = input ?? noCurves();
    if (!unit) return { output: fallback, findings: [unknownUnit(stage, use)] };
    return run(context, 1, fallback, (asked) =>
      builtAlong(
        unit,
        use.parameters,
        fallback,
        world.region,
        (lines, values) => unit.build(lines, values, asked),
        joinCurves,
      ),
    );
  };
  const whatOf = (use: UnitUse) => joinKeys(keyOf(use), ...namedKeys(world, piece, use));
  let kept = cache.keep(piece.id, 'path', joinKeys(whatOf(piece.path), String(greatest(thickness))), world, () =>
    build('path', piece.path, undefined),
  );
  const findings: Finding[] = [...kept.value.findings, ...lostAnchors(document, used)];
  const stages = [kept.value.output];
  let place = 'path';
  piece.shape.forEach((use, index) => {
    if (use.enabled && curveCount(kept.value.output) > 0) {
      const input = kept.value.output;
      const last = place;
      place = `shape ${index}`;
      kept = cache.keep(piece.id, place, joinKeys(kept.key, whatOf(use), size), world, () =>
        build('shape', use, input),
      );
      findings.push(...kept.value.findings);
      if (world.once) {
        cache.forget(piece.id, last);
        stages.length = 0;
      }
    }
    stages.push(kept.value.output);
  });
  return { curves: kept.value.output, key: joinKeys(kept.key, size), findings, stages };
}

/** Keys of all that a use of a unit names: a change there is a change here. */
export function namedKeys(world: World, piece: Piece, use: UnitUse): string[] {
  const { curves, pieces, profiles, regions, pictures } = referencesOfUse(use);
  const followed = pieces.length > 0 ? new Set(world.followed(piece).map(({ id }) => id)) : undefined;
  return [
    ...curves.map((id) => keyOf(world.curve(id) ?? null)),
    // a piece that may not be looked at gives no line, whatever becomes of it
    ...pieces.map((id) => (followed?.has(id) && world.lines.get(id)?.key) || 'none'),
    ...profiles.map((id) => keyOf(world.profile(id) ?? null)),
    ...regions.map((id) => keyOf(world.region(id) ?? null)),
    ...pictures.map((id) => joinKeys(keyOf(world.picture(id)?.picture ?? null), String(!world.picture(id)?.shades))),
  ];
}

export type UnitWorld = Omit<BuildContext, 'density' | 'report'>;

const NO_EDITS: BuildContext['edits'] = new Map();

/** What the units of a piece may ask. */
export function contextOf(world: World, piece: Piece): UnitWorld {
  const { surroundings } = world;
  const names = referencesOf(piece);
  const followed = new Set(world.followed(piece).map(({ id }) => id));
  // worked out when a unit asks: a line that is kept asks for nothing
  let controls: ReadonlyMap<string, ControlPoints> | undefined;
  return {
    surroundings,
    get curves() {
      controls ??= new Map(
        names.curves.flatMap((id) => {
          const curve = world.curve(id);
          return curve ? [[id, controlPoints(curve, surroundings)] as const] : [];
        }),
      );
      return controls;
    },
    thickness: thicknessOf(piece),
    breadth: breadthOf(piece),
    piece: (id) => {
      const line = followed.has(id) ? world.lines.get(id)?.curves : undefined;
      return line && { line, made: () => world.readMade(id)!.made };
    },
    profile: (id) => (names.profiles.includes(id) ? world.profile(id) : undefined),
    region: (id) => (names.regions.includes(id) ? world.region(id) : undefined),
    picture: (id) => (names.pictures.includes(id) ? world.picture(id) : undefined),
    forView: world.forView,
    edits: piece.elements ? new Map(piece.elements.map((edit) => [edit.id, edit])) : NO_EDITS,
    step: (share, says) => world.onStep(share, says),
  };
}

/**
 * Runs a unit. A unit never throws for what a user can do; should one fail all the same, that is reported and the rest of
 * the project goes on.
 */
export function run<T>(
  base: UnitWorld,
  density: number,
  fallback: T,
  build: (context: BuildContext) => T,
): StageResult<T> {
  const findings: Finding[] = [];
  const report = (finding: Finding) => findings.push(finding);
  try {
    // the curves are still worked out only when they are asked for
    return { output: build(Object.assign(Object.create(base) as BuildContext, { density, report })), findings };
  } catch (error) {
    if (error instanceof KelpError && error.code === 'CANCELLED') throw error;
    report({
      code: 'unit-failed',
      severity: 'error',
      message: `Could not be computed (${(error as Error).message}). Change its settings or its line; the rest of the project is not affected.`,
    });
    return { output: fallback, findings };
  }
}

export const unknownUnit = (stage: Stage, use: UnitUse): Finding => ({
  code: 'unit-unknown',
  severity: 'error',
  message: `This version of Kelp has no ${stage} unit “${use.unit}”; it was kept unchanged. Open the project in the version it comes from, or choose another unit.`,
});

/** How far the piece's section reaches from its curve. */
export function thicknessOf(piece: Pick<Piece, 'make'>): AlongValue {
  const { unit, parameters } = piece.make;
  const known = knownUnit('make', unit);
  return known?.thickness?.(atMost(known.parameters, parameters)) ?? 0;
}

/** How far it reaches to its sides, where it lies on something. */
export function breadthOf(piece: Pick<Piece, 'make'>): AlongValue {
  const { unit, parameters } = piece.make;
  const known = knownUnit('make', unit);
  return known?.breadth?.(atMost(known.parameters, parameters)) ?? thicknessOf(piece);
}

/** Points that were held on a prop which is no longer there; they are where they were. One finding a prop and curve. */
function lostAnchors(document: KelpDocument, curves: readonly DrawnCurve[]): Finding[] {
  const there = propIds(document.props);
  return curves.flatMap(({ name, points }) => {
    const lost = points.filter(({ anchor }) => anchor && !there.has(anchor.prop));
    if (lost.length === 0) return [];
    return [
      {
        code: 'anchor-lost',
        severity: 'warning' as const,
        message: `${lost.length === 1 ? 'A point' : `${lost.length} points`} of ${name} lost the prop that held ${lost.length === 1 ? 'it' : 'them'}. Drag onto another prop, or undo the deletion.`,
        place: lost[0].position,
      },
    ];
  });
}

const known = new WeakMap<KelpDocument['props'], Set<string>>();
function propIds(props: KelpDocument['props']): Set<string> {
  let ids = known.get(props);
  if (!ids) {
    ids = new Set(props.map(({ id }) => id));
    known.set(props, ids);
  }
  return ids;
}
