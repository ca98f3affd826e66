import type { Project } from '@kelp/formats';
import { benchProject } from '../bench-project.js';
import { brushes, coir, eelgrass, pupFur } from './coats.js';
import { dollHair } from './doll-hair.js';
import {
  bottleHandle,
  bottleWire,
  dollBody,
  dollFace,
  dollHead,
  face,
  flippers,
  floor,
  mat,
  pup,
  SHELLS,
  sand,
  scrubBrush,
  shell,
  tailShell,
  tray,
} from './things.js';

const PROPS = [
  { name: 'Floor', colour: '#b3a284', mesh: floor },
  { name: 'Mat', colour: '#6d4a2c', mesh: mat },
  { name: 'Pup', colour: '#d9d0bd', mesh: pup },
  { name: 'Flippers', colour: '#4b4a48', mesh: flippers },
  { name: 'Eyes and nose', colour: '#17181a', mesh: face },
  { name: 'Doll head', colour: '#d39a72', mesh: dollHead },
  { name: 'Doll body', colour: '#2f5d73', mesh: dollBody },
  { name: 'Doll face', colour: '#2a1c16', mesh: dollFace },
  ...SHELLS.map(({ name }, k) => ({ name, colour: '#8fa8b2', mesh: () => shell(k) })),
  { name: 'Tail shell', colour: '#8fa8b2', mesh: tailShell },
  { name: 'Scrub brush', colour: '#a9793f', mesh: scrubBrush },
  { name: 'Bottle brush wire', colour: '#8d9496', mesh: bottleWire },
  { name: 'Bottle brush handle', colour: '#2f6272', mesh: bottleHandle },
  { name: 'Tray', colour: '#7c8f8c', mesh: tray },
  { name: 'Sand', colour: '#cbb98f', mesh: sand },
] as const;

/** The farm's nursery: a stray pup on a coir mat, the crew's doll, brushes and a tray of eelgrass. */
export async function nurseryProject(): Promise<Project> {
  const project = await benchProject('Kelp farm, nursery', PROPS, (farm) => {
    pupFur(farm);
    dollHair(farm);
    brushes(farm);
    coir(farm);
    eelgrass(farm);
  });
  // guide shapes lead strands; nobody wants to see them
  for (const prop of project.document.props) if (/shell$/.test(prop.name)) prop.visible = false;
  return project;
}
