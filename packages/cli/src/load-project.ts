import { existsSync, readFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { KelpError, type OpenedDocument, SurfaceStore } from '@kelp/core';
import {
  type Project,
  pictureEntry,
  propEntry,
  readArchive,
  readProjectText,
  readStored,
  recipeIn,
} from '@kelp/formats';

/**
 * Reads a `.kelp` archive, a GLB that holds one, or a `.kelp.json` with its meshes in `props/` and its pictures in `pictures/` beside it.
 * @throws KelpError, or the file system's own error
 */
export function loadProject(file: string): Project {
  const bytes = readFileSync(file);
  if (bytes.length === 0) throw new KelpError('BAD_FILE', `${file} is empty`);
  const name = basename(file);
  const project =
    bytes[0] === 0x7b || /\.json$/i.test(file)
      ? beside(file, readProjectText(name, bytes.toString('utf8')))
      : readArchive(name, archiveIn(name, bytes));
  // beside the output, which may be one JSON value and nothing else
  for (const note of project.notes ?? []) process.stderr.write(`${note}\n`);
  return project;
}

/** The bytes of an archive: the file itself, or what a GLB holds. */
function archiveIn(name: string, bytes: Uint8Array): Uint8Array {
  const held = recipeIn(name, bytes);
  if (!held && /\.glb$/i.test(name))
    throw new KelpError(
      'BAD_FILE',
      `${name} does not include its project. Use the .kelp archive, or bake with --recipe.`,
    );
  return held ?? bytes;
}

/** The meshes of its props and the pictures it reads, ready to be asked. */
export async function surfacesOf({ document, props }: Project): Promise<SurfaceStore> {
  const surfaces = new SurfaceStore();
  await readStored(document, props, surfaces);
  return surfaces;
}

function beside(file: string, { document, notes }: OpenedDocument): Project {
  const props = new Map<string, Uint8Array>();
  for (const { mesh, name } of document.props) {
    const path = join(dirname(file), propEntry(mesh));
    if (!existsSync(path))
      throw new KelpError(
        'MISSING_PROP',
        `The mesh of prop "${name}" is missing at ${path}. Use the .kelp archive, which includes all meshes.`,
      );
    props.set(mesh, readFileSync(path));
  }
  for (const { image } of document.pictures) {
    const path = join(dirname(file), pictureEntry(image));
    // one that is not there matters only to who reads it, and that reader reports it
    if (existsSync(path)) props.set(image, readFileSync(path));
  }
  return { document, props, notes };
}
