import type { Issue, KelpErrorCode } from '@kelp/core';

/** A document that was checked, as text, and what the server has to know of it. */
export interface CheckedDocument {
  name: string;
  /** JSON, one line. */
  text: string;
  /** The files it names, each with what it is there for, in words. */
  files: { hash: string; what: string }[];
  /** What had to be done to it to open it, in words. */
  notes: string[];
}

/** A prop's mesh or a picture that was looked at. */
export interface CheckedFile {
  hash: string;
  bytes: Uint8Array;
  /** 0 for a picture. */
  triangles: number;
}

/** What the gate does, each with what goes in and what comes out. */
export interface GateJobs {
  /** The body of a save. */
  save: { in: { body: Uint8Array }; out: { basedOn: number; document: CheckedDocument } };
  /** A document from the database, lifted to what it is now. */
  stored: { in: { text: string; pretty?: boolean }; out: CheckedDocument };
  /** A project file, archive or text, with its files. */
  project: { in: { body: Uint8Array }; out: { document: CheckedDocument; files: CheckedFile[] } };
  /** One file that is to be kept under its hash. */
  file: { in: { hash: string; body: Uint8Array }; out: CheckedFile };
  /** A stored document with its files, as an archive. */
  archive: { in: { text: string; files: Map<string, Uint8Array> }; out: { name: string; bytes: Uint8Array } };
}

export type GateTask = { [K in keyof GateJobs]: { kind: K } & GateJobs[K]['in'] }[keyof GateJobs];

/** What comes back; an error comes as data, since a thrown one would lose its code on the way. */
export type GateResult =
  | { ok: true; value: GateJobs[keyof GateJobs]['out'] }
  | { ok: false; code: KelpErrorCode | 'BAD_REQUEST'; message: string; issues: readonly Issue[] };
