import { type KelpDocument, KelpError, type OpenedDocument, openDocument } from '@kelp/core';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { parseJson, textOf } from '../json/parse-json.js';
import { contentHash } from '../model/prop-mesh.js';

/** A project with the files it names, by content hash: the meshes of its props and its reference pictures. */
export interface Project {
  document: KelpDocument;
  /** What had to be done to the document to open it, in words. */
  notes?: string[];
  props: Map<string, Uint8Array>;
}

export const DOCUMENT_ENTRY = 'project.kelp.json';
export const propEntry = (hash: string): string => `props/${hash}.glb`;
export const pictureEntry = (hash: string): string => `pictures/${hash}`;
/** Hashes of all files that a document names. */
export const filesOf = (document: KelpDocument): string[] => [
  ...new Set([...document.props.map((prop) => prop.mesh), ...document.pictures.map((picture) => picture.image)]),
];
/** Largest document, unpacked, and largest files together, bytes; most entries of an archive. */
export const MAX_DOCUMENT_BYTES = 64 * 1024 * 1024;
export const MAX_ARCHIVE_BYTES = 1024 * 1024 * 1024;
const MAX_ENTRIES = 5_000;
/** Nothing that Kelp packs shrinks to less than one part in this many; a megabyte of blanks does. */
const MAX_RATIO = 200;

/** ZIP keeps local time; a fixed one makes the same project the same bytes. */
const STAMP = new Date(Date.UTC(2000, 0, 1, 12));

/** The text form of a project, without its meshes. */
export const writeProjectText = (document: KelpDocument): string => `${JSON.stringify(document, null, 2)}\n`;

/**
 * Reads the text form.
 * @throws KelpError BAD_FILE when it is no JSON, and what `openDocument` throws
 */
export function readProjectText(fileName: string, text: string): OpenedDocument {
  return openDocument(parseJson(fileName, text));
}

/** A `.kelp` archive: a ZIP with the document and the files it names. */
export function writeArchive({ document, props }: Project): Uint8Array {
  const entries: Record<string, [Uint8Array, { mtime: Date; level: 6 | 0 }]> = {
    [DOCUMENT_ENTRY]: [strToU8(writeProjectText(document)), { mtime: STAMP, level: 6 }],
  };
  for (const hash of [...new Set(document.props.map((prop) => prop.mesh))].sort()) {
    const bytes = props.get(hash);
    if (!bytes) throw new KelpError('MISSING_PROP', `The mesh ${hash.slice(0, 12)}… of this project is missing`);
    entries[propEntry(hash)] = [bytes, { mtime: STAMP, level: 6 }];
  }
  for (const hash of [...new Set(document.pictures.map((picture) => picture.image))].sort()) {
    const bytes = props.get(hash);
    if (!bytes) throw new KelpError('MISSING_PROP', `The image ${hash.slice(0, 12)}… of this project is missing`);
    entries[pictureEntry(hash)] = [bytes, { mtime: STAMP, level: 0 }];
  }
  return zipSync(entries);
}

/**
 * Reads a `.kelp` archive. Every mesh must be what its name says; entries that the document does not name are not even
 * unpacked. What an entry says of its size is checked before anything is unpacked, and holds: a ZIP that lies is cut off.
 * @throws KelpError BAD_FILE, TOO_LARGE, MISSING_PROP, and what `openDocument` throws
 */
export function readArchive(fileName: string, bytes: Uint8Array): Project {
  const [text] = unpacked(fileName, bytes, new Set([DOCUMENT_ENTRY]), MAX_DOCUMENT_BYTES).values();
  if (!text) throw new KelpError('BAD_FILE', `${fileName} has no ${DOCUMENT_ENTRY}: it is not a Kelp archive`);
  const entry = `${fileName}: ${DOCUMENT_ENTRY}`;
  const { document, notes } = readProjectText(entry, textOf(entry, text));
  const named = [
    ...document.props.map(({ mesh, name }) => ({ hash: mesh, path: propEntry(mesh), what: `mesh of prop "${name}"` })),
    ...document.pictures.map(({ image, name }) => ({
      hash: image,
      path: pictureEntry(image),
      what: `image "${name}"`,
    })),
  ];
  const entries = unpacked(fileName, bytes, new Set(named.map(({ path }) => path)), MAX_ARCHIVE_BYTES);
  const props = new Map<string, Uint8Array>();
  for (const { hash, path, what } of named) {
    const file = entries.get(path);
    if (!file) throw new KelpError('MISSING_PROP', `${fileName}: the ${what} (${path}) is missing`);
    if (!props.has(hash) && contentHash(file) !== hash)
      throw new KelpError('BAD_FILE', `${fileName}: ${path} is damaged: its content does not match its name`);
    props.set(hash, file);
  }
  return { document, props, notes };
}

/** Unpacks the entries that are wanted, no more than `most` bytes together. */
function unpacked(
  fileName: string,
  bytes: Uint8Array,
  wanted: ReadonlySet<string>,
  most: number,
): Map<string, Uint8Array> {
  let [count, size] = [0, 0];
  const tooLarge = (why: string) => new KelpError('TOO_LARGE', `${fileName} ${why}: it is not a Kelp archive`);
  try {
    const entries = unzipSync(bytes, {
      filter: ({ name, originalSize, size: packed }) => {
        if (++count > MAX_ENTRIES) throw tooLarge(`holds more than ${MAX_ENTRIES.toLocaleString('en')} files`);
        if (!wanted.has(name)) return false;
        size += originalSize;
        if (size > most) throw tooLarge(`unpacks to more than ${most / 2 ** 20} MB`);
        if (originalSize > MAX_RATIO * Math.max(packed, 1000))
          throw tooLarge(`unpacks "${name}" to more than ${MAX_RATIO} times its size`);
        return true;
      },
    });
    return new Map(Object.entries(entries));
  } catch (error) {
    if (error instanceof KelpError) throw error;
    throw new KelpError(
      'BAD_FILE',
      `${fileName} is not a Kelp archive, or it was cut off: ${(error as Error).message}`,
    );
  }
}
