import type { BendProfile, Finding, KelpDocument, Material, Measures, Mesh, Part } from '@kelp/core';

/** What the page asks of the worker. Buffers are moved, not copied. */
export type Request =
  | { kind: 'prop'; hash: string; bytes: Uint8Array }
  /** `draft`: the piece under a drag, made coarser for the time being. */
  | { kind: 'evaluate'; job: number; document: KelpDocument; draft: string | null }
  | { kind: 'sample'; id: number; unit: string; preset: string };

export interface PieceBuild {
  piece: string;
  /** The line as it is swept: flat xyz, offsets and which curves are closed. */
  rails: { position: Float64Array; start: Uint32Array; closed: Uint8Array };
  parts: Part[];
  materials: Record<string, Material>;
  findings: Finding[];
  measures: Measures;
  bends: BendProfile;
  /** Time in the worker, milliseconds. */
  ms: number;
  draft: boolean;
}

export type Answer =
  | { kind: 'prop'; hash: string; mesh: Mesh }
  | { kind: 'prop-failed'; hash: string; message: string }
  /** A piece that is not as it was sent last. */
  | { kind: 'piece'; job: number; build: PieceBuild }
  | { kind: 'done'; job: number; pieces: string[] }
  | { kind: 'failed'; job: number; message: string }
  | { kind: 'sample'; id: number; mesh: Mesh; material: Material };
