import type { CurveSet } from '../curve/curve-set.js';
import type { KelpDocument, Piece } from '../document/document.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Finding } from '../unit/finding.js';
import { unitOf } from '../unit/registry.js';
import type { Made, Material, Part } from '../unit/unit.js';
import { type BuildCache, createCache } from './cache.js';
import { checkPiece } from './checks.js';
import { gatherFindings } from './gather.js';
import { keyOf } from './key.js';
import { evaluateLine, run, type StageResult, type World } from './line.js';
import { type BendProfile, bendProfile, type Measures, measure } from './measures.js';

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
  /** The curves as they stand after the path and after each shape operation. */
  stages: CurveSet[];
}

/**
 * Computes one piece of a document. Never throws for what a user can do: what cannot be made is a finding.
 * Each stage is kept under a key of all it depends on, so a changed twist does not lay the line on its prop again.
 * Curves, pieces and their units must be replaced where they change, never written to: they are known by identity.
 * With a cache, the meshes of a build hold until the next build of the same piece, which may use their memory again.
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
  const world: World = { document, surroundings, surroundingsKey, cache };
  const { line, key, findings: lineFindings, stages, context: base } = evaluateLine(world, piece);
  const makeKey = `${key}${keyOf(piece.make)}${density}`;
  const made = cache.keep<StageResult<Made>>(`${piece.id} make ${density}`, makeKey, (old) =>
    run({ ...base, spare: old?.output.parts }, density, (context) =>
      unitOf('make', piece.make.unit).build(line.output, piece.make.parameters, context),
    ),
  );
  const dressKey = `${makeKey}${keyOf(piece.dress)}`;
  const dressed = cache.keep(`${piece.id} dress ${density}`, dressKey, () =>
    run(base, density, (context) =>
      unitOf('dress', piece.dress.unit).build(made.output, piece.dress.parameters, context),
    ),
  );
  const checked = cache.keep(`${piece.id} check ${density}`, makeKey, () =>
    checkPiece(piece, made.output, surroundings, document),
  );
  const meant = new Set(piece.ignored?.map(({ code }) => code));
  const found = [...lineFindings, ...made.findings, ...dressed.findings, ...checked];
  const findings = gatherFindings(found.filter(({ code }) => !meant.has(code)));
  const { measures, bends } = cache.keep(`${piece.id} measure ${density}`, makeKey, () => {
    const profile = bendProfile(made.output);
    return { measures: measure(made.output, made.output.parts, profile), bends: profile };
  });
  const { parts, materials } = dressed.output;
  const { rails } = made.output;
  return {
    piece: piece.id,
    name: piece.name,
    rails,
    parts,
    materials,
    findings,
    measures,
    bends,
    stages,
  };
}
