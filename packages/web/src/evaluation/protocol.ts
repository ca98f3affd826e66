import type {
  BendProfile,
  Bounds,
  Detail,
  Finding,
  KelpDocument,
  Mark,
  Material,
  Measures,
  Mesh,
  Outlined,
  Part,
  Shades,
  Skeleton,
  Slice,
  Table,
  Track,
} from '@kelp/core';
import type { Sitter } from '../look/photograph.js';

/** Divisions of a piece that is made coarser, as a factor. */
export const DRAFT_DENSITY = 0.5;
/** Vertices above which a piece is made coarser than it is set, for the view; a bake takes more. */
export const MAX_SHOWN = 4_000_000;

/** How a piece is to be made for the view. */
export interface Wanted {
  piece: string;
  /** Coarser for the time being: it is under a drag. */
  draft: boolean;
  /** The number of the stage whose line is wanted too. */
  watch: number | null;
  /** The page shows what this worker sent last: no answer is needed where that is as it was. */
  has: boolean;
}

/** What is asked of a piece that was made; the answer comes from the worker that made it. */
export type Question = { what: 'slice'; share: number; near: number } | { what: 'bends' } | { what: 'tables' };
export type AnswerTo<W extends Question['what']> = W extends 'slice'
  ? Slice | null
  : W extends 'bends'
    ? BendProfile[]
    : Table[];

/** What the page asks of a worker. Buffers are moved, not copied. */
export type Request =
  /** A prop as its file's bytes, to be decoded, or as its mesh. `tell`: the page wants the mesh. */
  | { kind: 'prop'; hash: string; bytes?: Uint8Array; mesh?: Pick<Mesh, 'position' | 'index'>; tell: boolean }
  /** A picture that units read: as its file's bytes, or as what they read of it. */
  | { kind: 'picture'; hash: string; bytes: Uint8Array }
  | { kind: 'shades'; hash: string; shades: Shades }
  /** What changed since the document before (`DocumentChanges`), as JSON: quicker to hand over than as objects. */
  | { kind: 'document'; changes: string }
  /** Pieces of the document as it is now, in this order. */
  | { kind: 'compute'; batch: number; pieces: Wanted[] }
  | { kind: 'forget'; pieces: string[] }
  | { kind: 'ask'; id: number; piece: string; question: Question }
  | { kind: 'sample'; id: number; unit: string; preset: string }
  /** Where these pieces run through each other. */
  | { kind: 'meetings'; id: number; pieces: Outlined[] }
  /** One piece of another document, for comparing; `draft` makes it as coarse as one under a drag. */
  | { kind: 'trial'; id: number; document: KelpDocument; piece: string; draft: boolean };

/** Curves as the page draws them: flat xyz in single precision, offsets and which are closed. */
export interface Guide {
  position: Float32Array;
  start: Uint32Array;
  closed: Uint8Array;
  /** Stable ids of the curves. */
  id: Uint32Array;
  /** Of lines that are strung, the stable numbers of what each runs between. */
  links?: { from: Uint32Array; to: Uint32Array };
}

/** What the page has of a piece. Profiles of bends, slices and tables are asked for when they are looked at. */
export interface PieceBuild {
  piece: string;
  /** The lines that the strip, the pens and the gauges go along. */
  guide: Guide;
  /** The line after the watched stage. */
  watched: Guide | null;
  parts: Part[];
  /** Box of all parts, of the guide where there is none; null where there is nothing. */
  bounds: Bounds | null;
  materials: Record<string, Material>;
  marks: Mark[];
  motion: Track[];
  /** Names of the tables there are. */
  tables: string[];
  findings: Finding[];
  /** Its lines as the other pieces see them. */
  skeleton: Skeleton;
  measures: Measures;
  /** Time in the worker, milliseconds. */
  ms: number;
  draft: boolean;
  /** How much of it the artist wants to see; absent: all. Then it is coarser too. */
  detail?: Detail;
}

export type Answer =
  | { kind: 'prop'; hash: string; mesh: Mesh }
  | { kind: 'shades'; hash: string; shades: Shades }
  | { kind: 'file-failed'; hash: string; message: string }
  /** One piece of a batch: as it is now, or null where it is as it was sent last. `last` ends the batch. */
  | { kind: 'piece'; batch: number; piece: string; build: PieceBuild | null; last: boolean }
  | { kind: 'piece-failed'; batch: number; piece: string; message: string; last: boolean }
  /** How far the piece at hand is, where its work is long. */
  | { kind: 'step'; share: number; says?: string }
  | { kind: 'answer'; id: number; value: unknown }
  | { kind: 'sample'; id: number; sitters: Sitter[] }
  | { kind: 'trial'; id: number; build: PieceBuild }
  /** A question, a sample or a trial that could not be answered. */
  | { kind: 'refused'; id: number; message: string };
