import type { ControlPoints } from '../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import type { DrawnCurve, KelpDocument, Piece } from '../document/document.js';
import { type AlongValue, greatest } from '../numeric/lane.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Finding } from '../unit/finding.js';
import { unitOf } from '../unit/registry.js';
import type { BuildContext } from '../unit/unit.js';
import type { BuildCache } from './cache.js';
import { keyOf } from './key.js';
import { controlPoints } from './resolve.js';

/** All that a line may depend on besides its own piece. */
export interface World {
  document: KelpDocument;
  surroundings: Surroundings;
  surroundingsKey: string;
  cache: BuildCache;
}

/** A piece's line after path and shape. */
export interface Line {
  line: StageResult<CurveSet>;
  /** Changes whenever the line may have changed. */
  key: string;
  findings: Finding[];
  /** The curves as they stand after the path and after each shape operation; switched-off ones repeat the one before. */
  stages: CurveSet[];
  context: UnitWorld;
}

type UnitWorld = Omit<BuildContext, 'density' | 'report'>;

/**
 * Computes the line of a piece, and of the pieces it follows before it.
 * @param asking pieces whose lines wait for this one: following one of them would never end
 */
export function evaluateLine(world: World, piece: Piece, asking: readonly string[] = []): Line {
  const { document, surroundings, surroundingsKey, cache } = world;
  const thickness = thicknessOf(piece);
  const followed = followedLines(world, piece, [...asking, piece.id]);
  const used = usedCurves(document, piece);
  // worked out when a unit asks: a line that is kept asks for nothing
  let controls: ReadonlyMap<string, ControlPoints> | undefined;
  const context: UnitWorld = {
    surroundings,
    get curves() {
      controls ??= new Map(used.map((curve) => [curve.id, controlPoints(curve, surroundings)]));
      return controls;
    },
    thickness,
    line: (id) => followed.get(id)?.line.output,
  };
  const guides = [...followed].map(([id, { key }]) => [id, key]);
  let key = `${keyOf(piece.path)} ${used.map(keyOf).join(' ')} ${surroundingsKey} ${greatest(thickness)}`;
  if (guides.length > 0) key += JSON.stringify(guides);
  let line = cache.keep(`${piece.id} path`, key, () =>
    run(context, 1, (unit) => unitOf('path', piece.path.unit).build(undefined, piece.path.parameters, unit)),
  );
  const findings: Finding[] = [...line.findings, ...lostAnchors(document, used)];
  const stages = [line.output];
  key += keyOf(thickness);
  piece.shape.forEach((use, index) => {
    if (use.enabled && curveCount(line.output) > 0) {
      key += keyOf(use);
      const input = line.output;
      line = cache.keep(`${piece.id} shape ${index}`, key, () =>
        run(context, 1, (unit) => unitOf('shape', use.unit).build(input, use.parameters, unit)),
      );
      findings.push(...line.findings);
    }
    stages.push(line.output);
  });
  return { line, key, findings, stages, context };
}

/** The lines of all pieces that this one's units name. */
function followedLines(world: World, piece: Piece, asking: readonly string[]): Map<string, Line> {
  const out = new Map<string, Line>();
  for (const use of [piece.path, ...piece.shape]) {
    const stage = use === piece.path ? 'path' : 'shape';
    for (const [name, parameter] of Object.entries(unitOf(stage, use.unit).parameters)) {
      if (parameter.kind !== 'piece') continue;
      const id = use.parameters[name] as string;
      const other = world.document.pieces.find((candidate) => candidate.id === id);
      if (other && !asking.includes(id) && !out.has(id)) out.set(id, evaluateLine(world, other, asking));
    }
  }
  return out;
}

export interface StageResult<T> {
  output: T;
  findings: Finding[];
}

export function run<T>(base: UnitWorld, density: number, build: (context: BuildContext) => T): StageResult<T> {
  const findings: Finding[] = [];
  return { output: build({ ...base, density, report: (finding) => findings.push(finding) }), findings };
}

/** How far the piece's section reaches from its curve. */
export function thicknessOf(piece: Piece): AlongValue {
  const unit = unitOf('make', piece.make.unit);
  return unit.thickness?.(piece.make.parameters) ?? 0;
}

/** Points that were held on a prop which is no longer there; they stand where they were. One finding a prop and curve. */
function lostAnchors({ props }: KelpDocument, curves: readonly DrawnCurve[]): Finding[] {
  const there = new Set(props.map(({ id }) => id));
  return curves.flatMap(({ name, points }) => {
    const lost = points.filter(({ anchor }) => anchor && !there.has(anchor.prop));
    if (lost.length === 0) return [];
    return [
      {
        code: 'anchor-lost',
        severity: 'warning' as const,
        message: `${lost.length === 1 ? 'A point' : `${lost.length} points`} of ${name} were held on a prop that was deleted. They stand where they were; drag them onto another prop, or bring the prop back with Undo.`,
        place: lost[0].position,
      },
    ];
  });
}

/** The drawn curves that a piece runs along. */
function usedCurves(document: KelpDocument, { path }: Piece): DrawnCurve[] {
  const wanted = (path.parameters['curves'] as string[] | undefined) ?? [];
  const byId = curvesById(document.curves);
  return wanted.flatMap((id) => byId.get(id) ?? []);
}

const indexed = new WeakMap<readonly DrawnCurve[], Map<string, DrawnCurve>>();

/** Hundreds of pieces ask for their curves: the list is gone through once. */
function curvesById(curves: readonly DrawnCurve[]): Map<string, DrawnCurve> {
  let byId = indexed.get(curves);
  if (byId?.size !== curves.length) {
    byId = new Map(curves.map((curve) => [curve.id, curve]));
    indexed.set(curves, byId);
  }
  return byId;
}
