import { curveLengths } from '../../../curve/arc-length.js';
import { curveCount, POINT } from '../../../curve/curve-set.js';
import { LineNoise } from '../../../numeric/noise.js';
import { hashText } from '../../../numeric/random.js';
import { type Course, eachStrand, type Strands } from '../strands.js';
import { spaceNoise } from './space-noise.js';

const SWELL = hashText('swell');
const ASIDE = hashText('wander aside');
const UP = hashText('wander up');

export interface Unevenness {
  /** Share by which the whole swells and shrinks. */
  swell: number;
  lifeBy: string;
  wander: number;
  wanderLength: number;
  /** From one swelling to the next, in thicknesses. */
  wave: number;
  held: string;
  seed: number;
}

/** A wave over a closed line repeats whole times. */
function wavesOf(length: number, wave: number, closed: number): { size: number; period: number } {
  if (!closed) return { size: wave, period: 0 };
  const period = Math.max(1, Math.round(length / wave));
  return { size: length / period, period };
}

/** Swells and shrinks a bundle on its way, before anything is laid in it. */
export function swellCourse({ rails, radius }: Course, { swell, wave, held, seed }: Unevenness, size: number): void {
  if (swell === 0) return;
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const line = new LineNoise(seed, SWELL);
  const inSpace = spaceNoise(seed, SWELL);
  for (let c = 0; c < curveCount(rails); c++) {
    const waves = wavesOf(lengths[c], wave * 2 * size, rails.closed[c]);
    line.onLine(rails.id[c], waves.period);
    for (let p = rails.start[c]; p < rails.start[c + 1]; p++) {
      const [x, y, z] = rails.position.subarray(3 * p, 3 * p + 3);
      const at =
        held === 'space' ? inSpace(x / waves.size, y / waves.size, z / waves.size) : line.at(along[p] / waves.size);
      radius[p] *= 1 + swell * at;
    }
  }
}

/** Moves each strand about its place, by itself; ids keep their course when others come or go. */
export function wanderStrands(course: Course, strands: Strands, life: Unevenness, size: number): void {
  const absolute = life.lifeBy === 'length';
  const far = absolute ? life.wanderLength : life.wander;
  if (far === 0) return;
  const { rails, frames } = course;
  const { position, id, closed } = strands.lines;
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const noises = [new LineNoise(life.seed, UP), new LineNoise(life.seed, ASIDE)];
  const spaces = [spaceNoise(life.seed, UP), spaceNoise(life.seed, ASIDE)];
  const { tangent, normal } = frames;
  eachStrand(course, strands, (strand, rail, from, to, points) => {
    const waves = wavesOf(lengths[rail], life.wave * 2 * size, closed[strand]);
    for (const noise of noises) noise.onLine(id[strand], waves.period);
    for (let k = 0; k < points; k++) {
      const [p, i, o] = [from + k, 3 * (from + k), 3 * (to + k)];
      const amount = absolute ? far : far * 2 * strands.radius[to + k];
      const [up, aside] = noises.map((noise, n) =>
        life.held === 'space'
          ? spaces[n](position[o] / waves.size, position[o + 1] / waves.size, position[o + 2] / waves.size)
          : noise.at(along[p] / waves.size),
      );
      const binormal = [
        tangent[i + 1] * normal[i + 2] - tangent[i + 2] * normal[i + 1],
        tangent[i + 2] * normal[i] - tangent[i] * normal[i + 2],
        tangent[i] * normal[i + 1] - tangent[i + 1] * normal[i],
      ];
      for (let n = 0; n < 3; n++) position[o + n] += amount * (up * normal[i + n] + aside * binormal[n]);
    }
  });
}
