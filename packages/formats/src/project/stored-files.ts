import { type KelpDocument, picturesRead, type SurfaceStore } from '@kelp/core';
import { decodeProp } from '../model/prop-mesh.js';
import { readShades } from '../picture/shades.js';

/**
 * Reads the files of a project that its pieces are computed with: the meshes of all props and the pictures that units
 * read. A picture that cannot be read is left out; the unit that needs it reports it.
 * @throws KelpError where a prop cannot be read
 */
export async function readStored(
  { props, pictures, pieces }: Pick<KelpDocument, 'props' | 'pictures' | 'pieces'>,
  files: ReadonlyMap<string, Uint8Array>,
  store: SurfaceStore,
): Promise<void> {
  for (const { mesh } of props) {
    const stored = files.get(mesh);
    if (stored && !store.has(mesh)) store.add(mesh, await decodeProp(stored));
  }
  for (const { image, name } of picturesRead({ pictures, pieces })) {
    const stored = files.get(image);
    if (!stored || store.has(image)) continue;
    try {
      store.addShades(image, readShades(name, stored));
    } catch {}
  }
}
