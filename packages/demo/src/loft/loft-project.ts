import type { Project } from '@kelp/formats';
import { benchProject } from '../bench-project.js';
import { bench, benchCleat, peg } from './bench.js';
import { cableLaidEnd, cleatRope, coiledRope, hankOfThread, longline, mooringRope, wireStay } from './ropes.js';

const PROPS = [
  { name: 'Bench', colour: '#c2ab85', mesh: bench },
  { name: 'Bench cleat', colour: '#6e8081', mesh: benchCleat },
  { name: 'Peg', colour: '#5f7576', mesh: peg },
] as const;

/** The farm's rigging loft: a bench with ropes, wire and thread on it, close enough to see every strand. */
export const loftProject = (): Promise<Project> =>
  benchProject('Kelp farm, rigging loft', PROPS, (farm) => {
    mooringRope(farm);
    hankOfThread(farm);
    wireStay(farm);
    cableLaidEnd(farm);
    longline(farm);
    cleatRope(farm);
    coiledRope(farm);
  });
