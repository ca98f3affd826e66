import type { Made } from '../../unit/carriers.js';
import { wholeBody } from './hull.js';
import type { Course } from './strands.js';

/** A bundle as its line: drawn as one, and baked as a plain tube of its thickness. */
export const lineOnly = (course: Course, leastBend: number): Pick<Made, 'parts' | 'bodies'> => ({
  parts: [
    {
      kind: 'strands',
      id: 'line',
      name: 'Line',
      slot: 'main',
      curves: course.rails,
      width: course.radius.map((value) => 2 * value),
      sides: 8,
    },
  ],
  bodies: [wholeBody(course, leastBend)],
});
