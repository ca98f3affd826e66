import type { Project } from '@kelp/formats';
import { benchProject } from '../bench-project.js';
import { bagSeams, patchRim, suitBelt, suitZip } from './sewn.js';
import { bag, form, patch, table } from './things.js';

const PROPS = [
  { name: 'Table', colour: '#c9b48c', mesh: table },
  { name: 'Net bag', colour: '#a9bbae', mesh: bag },
  { name: 'Suit form', colour: '#4f6a72', mesh: form },
  { name: 'Patch', colour: '#5d8a78', mesh: patch },
] as const;

/** The farm's sewing bench: a bag, a patch and the chest of a suit, close enough to count their stitches. */
export const sewingProject = (): Promise<Project> =>
  benchProject('Kelp farm, sewing bench', PROPS, (farm) => {
    bagSeams(farm);
    patchRim(farm);
    suitZip(farm);
    suitBelt(farm);
  });
