import { emptyDocument, HOME, type Mesh, Surface } from '@kelp/core';
import { encodeProp, type Project } from '@kelp/formats';
import { Farm } from './farm.js';

/** A project of one place of the farm: its props where they are modelled, and what `furnish` makes of them. */
export async function benchProject(
  name: string,
  props: readonly { name: string; colour: string; mesh(): Mesh }[],
  furnish: (farm: Farm) => void,
): Promise<Project> {
  const document = emptyDocument(name);
  const files = new Map<string, Uint8Array>();
  const surfaces = new Map<string, Surface>();
  for (const { name: prop, colour, mesh: build } of props) {
    const mesh = build();
    const { bytes, hash } = await encodeProp(mesh);
    const id = prop.toLowerCase().replaceAll(' ', '-');
    files.set(hash, bytes);
    surfaces.set(id, Surface.of(mesh, HOME));
    document.props.push({ id, name: prop, mesh: hash, placement: HOME, visible: true, colour });
  }
  furnish(new Farm(document, surfaces));
  return { document, props: files };
}
