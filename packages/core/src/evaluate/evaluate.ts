import type { ControlPoints } from '../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import type { KelpDocument, Piece, UnitUse } from '../document/document.js';
import { type AlongValue, greatest } from '../numeric/lane.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Finding } from '../unit/finding.js';
import { unitOf } from '../unit/registry.js';
import type { BuildContext, Material, Part } from '../unit/unit.js';
import { type BuildCache, createCache } from './cache.js';
import { checkPiece } from './checks.js';
import { type BendProfile, bendProfile, type Measures, measure } from './measures.js';
import { controlPoints } from './resolve.js';

export interface EvaluateOptions {
  /** Factor on all divisions; multiplies the piece's own. Default 1. */
  density?: number;
  /** Kept from call to call, it saves what did not change. */
  cache?: BuildCache;
}

/** All that is known about one piece once it is computed. */
export interface Build {
  piece: string;
  name: string;
  /** The line after path and shape, as it is swept. */
  rails: CurveSet;
  parts: Part[];
  materials: Record<string, Material>;
  findings: Finding[];
  measures: Measures;
  bends: BendProfile;
}

/**
 * Computes one piece of a document. Never throws for what a user can do: what cannot be made is a finding.
 * Each stage is kept under a key of all it depends on, so a changed twist does not lay the line on its prop again.
 * @param surroundings the visible props, where they stand; `surroundingsKey` changes whenever they do
 */
export function evaluatePiece(
  document: KelpDocument,
  piece: Piece,
  surroundings: Surroundings,
  surroundingsKey: string,
  options: EvaluateOptions = {},
): Build {
  const cache = options.cache ?? createCache();
  const density = (options.density ?? 1) * piece.bake.density;
  const thickness = thicknessOf(piece);
  const curves = pieceCurves(document, piece, surroundings);
  const base = { surroundings, curves, thickness };

  const pathKey = JSON.stringify([piece.path, curvesKey(document, piece), surroundingsKey, greatest(thickness)]);
  let line = cache.keep(`${piece.id} path`, pathKey, () =>
    run(base, 1, (context) => unitOf('path', piece.path.unit).build(undefined, piece.path.parameters, context)),
  );
  const findings: Finding[] = [...line.findings];
  let key = `${pathKey}${JSON.stringify(thickness)}`;
  piece.shape.forEach((use, index) => {
    if (!use.enabled || curveCount(line.output) === 0) return;
    key += JSON.stringify(use);
    const input = line.output;
    line = cache.keep(`${piece.id} shape ${index}`, key, () =>
      run(base, 1, (context) => unitOf('shape', use.unit).build(input, use.parameters, context)),
    );
    findings.push(...line.findings);
  });

  const makeKey = `${key}${JSON.stringify([piece.make, density])}`;
  const made = cache.keep(`${piece.id} make ${density}`, makeKey, () =>
    run(base, density, (context) => unitOf('make', piece.make.unit).build(line.output, piece.make.parameters, context)),
  );
  const dressKey = `${makeKey}${JSON.stringify(piece.dress)}`;
  const dressed = cache.keep(`${piece.id} dress ${density}`, dressKey, () =>
    run(base, density, (context) =>
      unitOf('dress', piece.dress.unit).build(made.output, piece.dress.parameters, context),
    ),
  );
  const checked = cache.keep(`${piece.id} check ${density}`, makeKey, () =>
    checkPiece(piece, made.output, surroundings, document),
  );
  findings.push(...made.findings, ...dressed.findings, ...checked);
  const { measures, bends } = cache.keep(`${piece.id} measure ${density}`, makeKey, () => {
    const profile = bendProfile(made.output);
    return { measures: measure(made.output, made.output.parts, profile), bends: profile };
  });
  const { parts, materials } = dressed.output;
  return { piece: piece.id, name: piece.name, rails: made.output.rails, parts, materials, findings, measures, bends };
}

interface StageResult<T> {
  output: T;
  findings: Finding[];
}

function run<T>(
  base: Omit<BuildContext, 'density' | 'report'>,
  density: number,
  build: (context: BuildContext) => T,
): StageResult<T> {
  const findings: Finding[] = [];
  return { output: build({ ...base, density, report: (finding) => findings.push(finding) }), findings };
}

/** How far the piece's section reaches from its curve. */
export function thicknessOf(piece: Piece): AlongValue {
  const unit = unitOf('make', piece.make.unit);
  return unit.thickness?.(piece.make.parameters) ?? 0;
}

function pieceCurves(
  document: KelpDocument,
  piece: Piece,
  surroundings: Surroundings,
): ReadonlyMap<string, ControlPoints> {
  const wanted = new Set((piece.path.parameters['curves'] as string[] | undefined) ?? []);
  const out = new Map<string, ControlPoints>();
  for (const curve of document.curves) if (wanted.has(curve.id)) out.set(curve.id, controlPoints(curve, surroundings));
  return out;
}

function curvesKey(document: KelpDocument, { path }: { path: UnitUse }): unknown {
  const wanted = new Set((path.parameters['curves'] as string[] | undefined) ?? []);
  return document.curves.filter((curve) => wanted.has(curve.id));
}
