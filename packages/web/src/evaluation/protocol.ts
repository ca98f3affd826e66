import type { BendProfile, Detail, Finding, KelpDocument, Material, Measures, Mesh, Part } from '@kelp/core';
import type { DocumentChanges } from './changes.js';

/** Divisions of a piece that is made coarser, as a factor. */
export const DRAFT_DENSITY = 0.5;

/** What the page asks of the worker. Buffers are moved, not copied. */
export type Request =
  | { kind: 'prop'; hash: string; bytes: Uint8Array }
  /** What changed since the document before; `draft`: the piece under a drag, made coarser for the time being. */
  | { kind: 'evaluate'; job: number; changes: DocumentChanges; draft: string | null; watch: Watch | null }
  | { kind: 'sample'; id: number; unit: string; preset: string }
  /** One piece of another document, for comparing; `draft` makes it as coarse as one under a drag. */
  | { kind: 'trial'; id: number; document: KelpDocument; piece: string; draft: boolean };

/** Curves as the page draws them: flat xyz, offsets and which are closed. */
export interface Rails {
  position: Float64Array;
  start: Uint32Array;
  closed: Uint8Array;
  /** Stable ids of the curves. */
  id: Uint32Array;
}

/** A piece whose line is wanted as it stands after so many of its stages. */
export interface Watch {
  piece: string;
  stage: number;
}

export interface PieceBuild {
  piece: string;
  /** The line as it is swept: flat xyz, offsets and which curves are closed. */
  rails: Rails;
  /** The line after the watched stage. */
  watched: Rails | null;
  parts: Part[];
  materials: Record<string, Material>;
  findings: Finding[];
  measures: Measures;
  bends: BendProfile;
  /** Time in the worker, milliseconds. */
  ms: number;
  /** Made coarser for the time being: it is under a drag. */
  draft: boolean;
  /** How much of it the artist wants to see; absent: all. Then it is coarser too. */
  detail?: Detail;
}

export type Answer =
  | { kind: 'prop'; hash: string; mesh: Mesh }
  | { kind: 'prop-failed'; hash: string; message: string }
  /** A piece that is not as it was sent last. */
  | { kind: 'piece'; job: number; build: PieceBuild }
  | { kind: 'done'; job: number; pieces: string[] }
  | { kind: 'failed'; job: number; message: string }
  | { kind: 'sample'; id: number; mesh: Mesh; material: Material }
  | { kind: 'trial'; id: number; build: PieceBuild }
  | { kind: 'trial-failed'; id: number; message: string };
