import { emptyDocument, HOME, Surface } from '@kelp/core';
import { encodeProp, type Project } from '@kelp/formats';
import { Farm } from '../farm.js';
import { bench, benchCleat, peg } from './bench.js';
import { cableLaidEnd, cleatRope, coiledRope, hankOfThread, longline, mooringRope, wireStay } from './ropes.js';

const PROPS = [
  { name: 'Bench', colour: '#c2ab85', mesh: bench },
  { name: 'Bench cleat', colour: '#6e8081', mesh: benchCleat },
  { name: 'Peg', colour: '#5f7576', mesh: peg },
] as const;

/** The farm's rigging loft: a bench with ropes, wire and thread on it, close enough to see every strand. */
export async function loftProject(): Promise<Project> {
  const document = emptyDocument('Kelp farm, rigging loft');
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
  mooringRope(farm);
  hankOfThread(farm);
  wireStay(farm);
  cableLaidEnd(farm);
  longline(farm);
  cleatRope(farm);
  coiledRope(farm);
  return { document, props };
}
