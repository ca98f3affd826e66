import type { MessagePort } from 'node:worker_threads';
import type { BakeSettings, KelpErrorCode, PieceReport } from '@kelp/core';
import type { BakeFormat } from '@kelp/formats';

/** One bake. */
export interface BakeTask {
  /** The document, as JSON. */
  text: string;
  /** The files it names, by content hash. */
  files: Map<string, Uint8Array>;
  settings: BakeSettings;
  /** What the file is called, without its ending: what stands beside it is named by it. */
  called: string;
  /** Memory there is for the piece at hand, bytes. */
  memory: number;
  format: BakeFormat;
  /** Where the clock stands, of its loop: all stands still there. Without it, what moves is written moving where the format can. */
  phase?: number;
  /** Where the mesh is written, once it is whole; of frames a ZIP of them all. */
  out: string;
}

/** A task on its way to the thread. */
export interface SentTask extends BakeTask {
  /** Progress comes back here. */
  port: MessagePort;
}

export interface BakeProgress {
  /** With the part of the piece at hand. */
  done: number;
  total: number;
  /** The piece that is being made now. */
  name: string;
}

/** What it gives back; an error comes as data, since a thrown one would lose its code on the way. */
export type BakeResult =
  | { ok: true; bytes: number; pieces: PieceReport[]; seconds: number }
  | { ok: false; code: KelpErrorCode; message: string };
