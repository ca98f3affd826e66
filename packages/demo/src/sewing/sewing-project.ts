import { emptyDocument, HOME, Surface } from '@kelp/core';
import { encodeProp, type Project } from '@kelp/formats';
import { Farm } from '../farm.js';
import { bagSeams, patchRim, suitBelt, suitZip } from './sewn.js';
import { bag, form, patch, table } from './things.js';

const PROPS = [
  { name: 'Table', colour: '#c9b48c', mesh: table },
  { name: 'Net bag', colour: '#a9bbae', mesh: bag },
  { name: 'Suit form', colour: '#4f6a72', mesh: form },
  { name: 'Patch', colour: '#5d8a78', mesh: patch },
] as const;

/** The farm's sewing bench: a bag, a patch and the chest of a suit, close enough to count their stitches. */
export async function sewingProject(): Promise<Project> {
  const document = emptyDocument('Kelp farm, sewing bench');
  const props = new Map<string, Uint8Array>();
  const surfaces = new Map<string, Surface>();
  for (const { name, colour, mesh: build } of PROPS) {
    const mesh = build();
    const { bytes, hash } = await encodeProp(mesh);
    const id = name.toLowerCase().replaceAll(' ', '-');
    props.set(hash, bytes);
    surfaces.set(id, Surface.of(mesh, HOME));
    document.props.push({ id, name, mesh: hash, placement: HOME, visible: true, colour });
  }
  const farm = new Farm(document, surfaces);
  bagSeams(farm);
  patchRim(farm);
  suitZip(farm);
  suitBelt(farm);
  return { document, props };
}
