import { newShape, newUse } from '@kelp/core';
import { type Farm, free } from '../farm.js';
import { BOX, BOX_SIZE, SENSORS, TAPS, WALL } from './things.js';

const cable = (preset: string, more: object) => {
  const make = newUse('make', 'cable', preset);
  Object.assign(make.parameters, more);
  return make;
};

/** How high on the wall each lead runs, and where it leaves the box: the first to the left and lowest, so none cross. */
const LEVELS = [0.5, 0.6, 0.69];

/** A lead from the box down the wall to each sensor, held by clips, a little slack between them; one makes a loop. */
export function sensorLeads(farm: Farm): void {
  const radius = 0.005;
  const face = WALL.face + radius + 0.0006;
  SENSORS.forEach(([x, y], k) => {
    const from = BOX[0] - 0.07 + 0.07 * k;
    const under = BOX[1] - BOX_SIZE[1] / 2;
    const level = LEVELS[k];
    farm.made(
      `Sensor lead ${k + 1}`,
      [
        free(from, under + 0.004, face),
        free(from, under - 0.03, face),
        free(from, level + 0.045, face),
        free(from + 0.05, level, face),
        free((from + x) / 2, level, face),
        free(x - 0.05, level, face),
        free(x, level - 0.045, face),
        free(x, y + 0.16, face),
        free(x, y + 0.12, face + 0.002),
        free(x, y + 0.085, WALL.face + 0.0125),
        free(x, y + 0.05, WALL.face + 0.014),
        free(x, y + 0.024, WALL.face + 0.014),
      ],
      [newShape('smooth', { over: 1 })],
      cable('clipped-run', {
        radius,
        sides: 14,
        fixEvery: 22,
        slack: { least: 0.0002, most: 0.002 },
        loops: k === 1 ? 0.6 : 0,
        loopSize: 5,
        seed: 5 + k,
        endPlug: 'round',
        plugSize: 1,
        lead: 0.5,
        lamp: true,
        leastBend: 1.5,
      }),
      { colour: ['#3a4346', '#b8612f', '#2f6272'][k], roughness: 0.5 },
    );
  });
}

/** Four hoses in a row from the wall over the quay, tied, that fan out to the taps. */
export function hoseBundle(farm: Farm): void {
  const radius = 0.011;
  const lies = radius + 0.003;
  const [x, y, z] = [0, 1, 2].map((n) => TAPS.reduce((sum, tap) => sum + tap[n] / TAPS.length, 0));
  farm.made(
    'Hose bundle',
    [
      free(-0.95, lies, WALL.face - 0.01),
      free(-0.945, lies, WALL.face + 0.1),
      free(-0.92, lies, -0.22),
      free(-0.8, lies, -0.05),
      free(-0.5, lies, 0.1),
      free(-0.15, lies, z - 0.04),
      free(0.08, lies, z),
      free(0.26, lies + 0.03, z),
      free(0.37, 0.15, z),
      free(0.45, 0.33, z),
      free(x - 0.06, 0.4, z),
      free(x, 0.33, z),
      free(x, y + 0.002, z),
    ],
    [newShape('smooth', { over: 1 })],
    cable('hose-fan', {
      radius,
      count: 4,
      ties: 14,
      fan: 1.7,
      fanOver: 22,
      ribs: 'rings',
      wave: 3,
      depth: 0.08,
      sides: 10,
      start: 'flat',
      leastBend: 2,
      plugSize: 0.95,
      lead: 3,
    }),
    { colour: '#5b6e72', roughness: 0.6 },
  );
}

/** What is left over of a cable: it lies cut on the quay, its cores spread. */
export function cutEnd(farm: Farm): void {
  const radius = 0.012;
  const lies = radius + 0.0005;
  farm.made(
    'Cut cable',
    [
      free(-0.62, lies, 0.36),
      free(-0.5, lies, 0.3),
      free(-0.34, lies, 0.36),
      free(-0.2, lies, 0.33),
      free(-0.05, lies, 0.4),
    ],
    [newShape('smooth', { over: 1 })],
    cable('cut-cable', { radius, cores: 5, coreLength: 6, coreSpread: 1.1, bared: 'both' }),
    { colour: '#26292b', roughness: 0.55 },
  );
}
