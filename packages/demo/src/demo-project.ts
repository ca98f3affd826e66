import { emptyDocument, HOME, Surface } from '@kelp/core';
import { encodeProp, type Project } from '@kelp/formats';
import { bridgeHose, buoyTether, crateStrap, hoseCoil, lampLine, mooring, sensorLead, shorePower } from './cables.js';
import { Farm } from './farm.js';
import { anchorChain, barnacles, fenders, kerbPosts } from './placed.js';
import { propSources } from './props/sources.js';
import { lampCables } from './strung.js';
import { eelgrass, gateArch, handRail, kelpBlades, shaftSpring, waterPipe } from './swept.js';

/**
 * The kelp farm's first corner: a pier with a winch house, a work raft, a buoy, and the cables that run over and
 * between them. Built from code; the same bytes every time.
 */
export async function demoProject(): Promise<Project> {
  const document = emptyDocument('Kelp farm, pier corner');
  const props = new Map<string, Uint8Array>();
  const surfaces = new Map<string, Surface>();
  for (const { name, colour, mesh } of propSources()) {
    const { bytes, hash } = await encodeProp(mesh);
    const id = name.toLowerCase().replaceAll(' ', '-');
    const placement = name === 'Buoy' ? { ...HOME, position: [3.9, 0.02, 2.7] as [number, number, number] } : HOME;
    props.set(hash, bytes);
    surfaces.set(id, Surface.of(mesh, placement));
    document.props.push({ id, name, mesh: hash, placement, visible: true, colour });
  }
  const farm = new Farm(document, surfaces);
  shorePower(farm);
  lampLine(farm);
  mooring(farm);
  bridgeHose(farm);
  sensorLead(farm);
  crateStrap(farm);
  buoyTether(farm);
  hoseCoil(farm);
  handRail(farm);
  waterPipe(farm);
  shaftSpring(farm);
  gateArch(farm);
  kelpBlades(farm);
  eelgrass(farm);
  kerbPosts(farm);
  fenders(farm);
  anchorChain(farm);
  barnacles(farm);
  lampCables(farm);
  return { document, props };
}
