import type { Project } from '@kelp/formats';
import { benchProject } from '../bench-project.js';
import { conveyor, sledgeTracks, winchBelt } from './machines.js';
import { crate, ground, raft, sledge, trestle, winch } from './things.js';

const PROPS = [
  { name: 'Ground', colour: '#a4aaa2', mesh: ground },
  { name: 'Winch', colour: '#2f6272', mesh: winch },
  { name: 'Sledge', colour: '#a98c62', mesh: sledge },
  { name: 'Trestle', colour: '#51605c', mesh: trestle },
  { name: 'Raft', colour: '#b79a6d', mesh: raft },
  { name: 'Crate', colour: '#c7a26a', mesh: crate },
] as const;

/** The hauling yard: a winch with its belt, a sledge on tracks, a conveyor that lifts crates of kelp up to the raft. */
export const yardProject = (): Promise<Project> =>
  benchProject('Kelp farm, hauling yard', PROPS, (farm) => {
    winchBelt(farm);
    sledgeTracks(farm);
    conveyor(farm);
  });
