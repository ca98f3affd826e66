import { type KelpDocument, KelpError, type OpenedDocument, openDocument } from '@kelp/core';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
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
/** Unpacked size above which an archive is refused, bytes. */
export const MOST_ARCHIVE_BYTES = 1024 * 1024 * 1024;
/** ZIP keeps local time; a fixed one makes the same project the same bytes. */
const STAMP = new Date(Date.UTC(2000, 0, 1, 12));

/** The text form of a project, without its meshes. */
export const writeProjectText = (document: KelpDocument): string => `${JSON.stringify(document, null, 2)}\n`;

/**
 * Reads the text form.
 * @throws KelpError BAD_FILE when it is no JSON, and what `openDocument` throws
 */
export function readProjectText(fileName: string, text: string): OpenedDocument {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new KelpError('BAD_FILE', `${fileName} is no JSON: ${(error as Error).message}`);
  }
  return openDocument(raw);
}

/** A `.kelp` archive: a ZIP with the document and the files it names. */
export function writeArchive({ document, props }: Project): Uint8Array {
  const entries: Record<string, [Uint8Array, { mtime: Date; level: 6 | 0 }]> = {
    [DOCUMENT_ENTRY]: [strToU8(writeProjectText(document)), { mtime: STAMP, level: 6 }],
  };
  for (const hash of [...new Set(document.props.map((prop) => prop.mesh))].sort()) {
    const bytes = props.get(hash);
    if (!bytes) throw new KelpError('MISSING_PROP', `The mesh ${hash.slice(0, 12)}… of this project is not there`);
    entries[propEntry(hash)] = [bytes, { mtime: STAMP, level: 6 }];
  }
  for (const hash of [...new Set(document.pictures.map((picture) => picture.image))].sort()) {
    const bytes = props.get(hash);
    if (!bytes) throw new KelpError('MISSING_PROP', `The picture ${hash.slice(0, 12)}… of this project is not there`);
    entries[pictureEntry(hash)] = [bytes, { mtime: STAMP, level: 0 }];
  }
  return zipSync(entries);
}

/**
 * Reads a `.kelp` archive. Every mesh must be what its name says; entries Kelp does not know are passed over.
 * @throws KelpError BAD_FILE, TOO_LARGE, MISSING_PROP, and what `openDocument` throws
 */
export function readArchive(fileName: string, bytes: Uint8Array): Project {
  let size = 0;
  let entries: Record<string, Uint8Array>;
  try {
    entries = unzipSync(bytes, {
      filter: (entry) => {
        size += entry.originalSize;
        if (size > MOST_ARCHIVE_BYTES)
          throw new KelpError('TOO_LARGE', `${fileName} unpacks to more than ${MOST_ARCHIVE_BYTES / 2 ** 20} MB`);
        return entry.name === DOCUMENT_ENTRY || /^(props\/[0-9a-f]{64}\.glb|pictures\/[0-9a-f]{64})$/.test(entry.name);
      },
    });
  } catch (error) {
    if (error instanceof KelpError) throw error;
    throw new KelpError('BAD_FILE', `${fileName} is no Kelp archive, or it was cut off: ${(error as Error).message}`);
  }
  const text = entries[DOCUMENT_ENTRY];
  if (!text) throw new KelpError('BAD_FILE', `${fileName} has no ${DOCUMENT_ENTRY} in it: it is no Kelp archive`);
  const { document, notes } = readProjectText(`${fileName}: ${DOCUMENT_ENTRY}`, strFromU8(text));
  const props = new Map<string, Uint8Array>();
  const take = (hash: string, path: string, what: string) => {
    const entry = entries[path];
    if (!entry) throw new KelpError('MISSING_PROP', `${fileName}: the ${what} (${path}) is missing`);
    if (!props.has(hash) && contentHash(entry) !== hash)
      throw new KelpError('BAD_FILE', `${fileName}: ${path} is damaged, its content does not match its name`);
    props.set(hash, entry);
  };
  for (const { mesh, name } of document.props) take(mesh, propEntry(mesh), `mesh of prop "${name}"`);
  for (const { image, name } of document.pictures) take(image, pictureEntry(image), `picture "${name}"`);
  return { document, props, notes };
}
