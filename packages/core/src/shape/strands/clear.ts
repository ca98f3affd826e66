import { STRAND } from '../../curve/strand-data.js';
import { greatest } from '../../numeric/lane.js';
import { createHit } from '../../surface/surface.js';
import { defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { reshaped } from './reshape.js';

/** Of a bound this much more: rounding must lose no place. */
const NEARLY = 1 + 1e-9;

export const clear = defineUnit({
  stage: 'shape',
  id: 'clear',
  label: 'Keep out',
  purpose:
    'Keeps strands out of their skin and other props; intersecting strands lie on the surface and keep their length.',
  synonyms: ['collision', 'push out', 'skin'],
  sample: {
    path: ['grown', { prop: 'bar', count: 300, length: 0.1 }],
    make: ['strands', {}],
    before: [['droop', { amount: 1 }]],
    bar: true,
  },
  parameters: {
    prop: { kind: 'prop', label: 'Prop', help: 'Prop to keep out of; empty uses all props.', default: '' },
    lift: {
      kind: 'ratio',
      of: 'half width',
      label: 'Surface offset',
      help: 'Distance of the strand’s centre from the surface, relative to its half width.',
      default: 1,
      min: 0,
      max: 10_000,
      comfortable: [0, 10],
      gauge: 'distance',
    },
    ...CHOSEN,
  },
  presets: [
    { id: 'kept-out', label: 'Kept out', parameters: {} },
    { id: 'kept-off', label: 'Clear of the skin', parameters: { lift: 6 } },
  ],
  describe: () => 'Out of props',
  build(input, p, context) {
    const { surroundings } = context;
    if (surroundings.isEmpty) return input;
    const only = p.prop || undefined;
    const off = p.lift * greatest(context.thickness);
    const chosen = chosenOf(input, p, context);
    const hit = createHit();
    const at = new Float64Array(3);
    /** How far `at` is outside, negative inside; Infinity beyond `within`. */
    const outside = (within: number): number => {
      const id = surroundings.closest(at[0], at[1], at[2], hit, within, only);
      if (id === undefined) return Infinity;
      return surroundings.isBehind(id, at[0], at[1], at[2], hit) ? -hit.distance : hit.distance;
    };
    /** Puts `at` on the surface that was hit, as far off it as is wanted. */
    const push = (far: number) => {
      for (let n = 0; n < 3; n++) {
        const out = far > 1e-9 ? (at[n] - hit.point[n]) / far : hit.normal[n];
        at[n] = hit.point[n] + off * (far < 0 || far <= 1e-9 ? hit.normal[n] : out);
      }
    };
    const faces = input.curveData[STRAND.rootFace];
    const skin =
      faces && input.position.length > 0
        ? surroundings.closest(input.position[0], input.position[1], input.position[2], hit)
        : undefined;
    const ballBefore = skin === undefined ? undefined : surroundings.freeBefore(skin, only);
    const ball = new Float64Array(4);
    return reshaped(input, context.step, (position, first, end, c) => {
      if (chosen && chosen(c) < 0.5) return;
      /** This far it may go on before anything can be near; and how far anything is at most: its root is on the skin, or not. */
      let free = 0;
      let within = Infinity;
      const old = input.position;
      ballBefore?.(faces[c], ball);
      for (let p = first + 1; p < end; p++) {
        const i = 3 * p;
        const [x, y, z] = [old[i] - old[i - 3], old[i + 1] - old[i - 2], old[i + 2] - old[i - 1]];
        const step = Math.sqrt(x * x + y * y + z * z);
        at[0] = position[i - 3] + x;
        at[1] = position[i - 2] + y;
        at[2] = position[i - 1] + z;
        free -= step;
        within += step;
        // most of what is on a skin stays in the free ball before its face
        if (free < 0 && ball[3] > 0) {
          const [bx, by, bz] = [at[0] - ball[0], at[1] - ball[1], at[2] - ball[2]];
          free = Math.max(free, ball[3] - off - Math.sqrt(bx * bx + by * by + bz * bz));
        }
        if (free < 0) {
          // no place gets further from the nearest than it walks
          let far = outside(NEARLY * within);
          within = Math.abs(far);
          if (far >= off) free = far - off;
          else {
            push(far);
            keepStep(position, i, at, step);
            far = outside(Math.max(off, step));
            if (far < off) push(far);
            free = 0;
            within = off + step;
          }
        }
        position[i] = at[0];
        position[i + 1] = at[1];
        position[i + 2] = at[2];
      }
    });
  },
});

/** Moves a place along the way from the point before so that the step is as long as it was. */
function keepStep(position: Float64Array, i: number, at: Float64Array, step: number): void {
  const [x, y, z] = [at[0] - position[i - 3], at[1] - position[i - 2], at[2] - position[i - 1]];
  const size = Math.sqrt(x * x + y * y + z * z);
  if (!(size > 0)) return;
  at[0] = position[i - 3] + (x * step) / size;
  at[1] = position[i - 2] + (y * step) / size;
  at[2] = position[i - 1] + (z * step) / size;
}
