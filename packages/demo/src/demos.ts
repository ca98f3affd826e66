import type { Project } from '@kelp/formats';
import { demoProject } from './demo-project.js';
import { landingProject } from './landing/landing-project.js';
import { loftProject } from './loft/loft-project.js';
import { nurseryProject } from './nursery/nursery-project.js';
import { sewingProject } from './sewing/sewing-project.js';
import { slipProject } from './slip/slip-project.js';
import { yardProject } from './yard/yard-project.js';

/** One project for each place of the farm; the first is the one to begin with. Covers stand in `covers`, by id. */
export const DEMOS: readonly { id: string; build(): Promise<Project> }[] = [
  { id: 'corner', build: demoProject },
  { id: 'landing', build: landingProject },
  { id: 'loft', build: loftProject },
  { id: 'sewing', build: sewingProject },
  { id: 'nursery', build: nurseryProject },
  { id: 'slip', build: slipProject },
  { id: 'yard', build: yardProject },
];
