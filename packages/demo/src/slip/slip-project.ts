import type { Project } from '@kelp/formats';
import { benchProject } from '../bench-project.js';
import { aroundTheQuay, gangway, roofTrusses } from './frames.js';
import { hull, pontoon, posts, quay, roof } from './things.js';

const PROPS = [
  { name: 'Quay', colour: '#9aa39d', mesh: quay },
  { name: 'Roof', colour: '#6f8f8c', mesh: roof },
  { name: 'Posts', colour: '#7a5b3d', mesh: posts },
  { name: 'Pontoon', colour: '#a98c62', mesh: pontoon },
  { name: 'Raft', colour: '#d7cdb6', mesh: hull },
] as const;

/** The slip: a roof on trusses, a gangway down to a pontoon, ladder, rails and a lamp mast. */
export const slipProject = (): Promise<Project> =>
  benchProject('Kelp farm, slip', PROPS, (farm) => {
    roofTrusses(farm);
    gangway(farm);
    aroundTheQuay(farm);
  });
