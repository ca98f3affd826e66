import type { Project } from '@kelp/formats';
import { benchProject } from '../bench-project.js';
import { pilingGrowth } from './growth.js';
import { pilings, quay, sensors, taps, terminalBox, wall } from './things.js';
import { cutEnd, hoseBundle, sensorLeads } from './wiring.js';

const PROPS = [
  { name: 'Quay', colour: '#b9b4a6', mesh: quay },
  { name: 'Pump house wall', colour: '#8c3f34', mesh: wall },
  { name: 'Pilings', colour: '#8a7355', mesh: pilings },
  { name: 'Terminal box', colour: '#c9cdc8', mesh: terminalBox },
  { name: 'Sensors', colour: '#3c4a52', mesh: sensors },
  { name: 'Taps', colour: '#6b7f80', mesh: taps },
] as const;

/** The farm's landing: the pump house wall with its cables, the pilings with what has grown on them. */
export const landingProject = (): Promise<Project> =>
  benchProject('Kelp farm, landing', PROPS, (farm) => {
    sensorLeads(farm);
    hoseBundle(farm);
    cutEnd(farm);
    pilingGrowth(farm);
  });
