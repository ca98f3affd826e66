import { beltLength, beltLine, type PlaneWheel } from './belt-line.js';

/** Steps of the search: each halves the way that is left. */
const STEPS = 60;

/**
 * Slides one wheel until the belt is as long as asked: along the line that halves the belt's two ways to it, outwards to
 * take up, inwards to give.
 * @returns the wheels with that one moved; undefined where no place of it gives that length
 */
export function takenUp(wheels: readonly PlaneWheel[], by: number, length: number): PlaneWheel[] | undefined {
  const way = wayOut(wheels, by);
  if (!way) return undefined;
  const at = (far: number): PlaneWheel[] =>
    wheels.map((wheel, i) => (i === by ? { ...wheel, x: wheel.x + far * way.x, y: wheel.y + far * way.y } : wheel));
  const lengthAt = (far: number): number | undefined => {
    const moved = at(far);
    const line = beltLine(moved);
    return line.stuck || line.untouched.includes(by) ? undefined : beltLength(moved, line);
  };
  const now = lengthAt(0);
  if (now === undefined) return undefined;
  const wider = now < length;
  // it moves by no more than all that is wanted, and the belt grows by at least something
  let [near, far] = [0, wider ? length : -length];
  let reach = wider ? (length - now) / 2 : (now - length) / -2;
  for (let k = 0; k < STEPS; k++, reach *= 2) {
    const here = lengthAt(reach);
    if (here === undefined || Math.abs(reach) > length) return undefined;
    if (wider ? here >= length : here <= length) {
      far = reach;
      break;
    }
    near = reach;
  }
  for (let k = 0; k < STEPS; k++) {
    const middle = (near + far) / 2;
    const here = lengthAt(middle);
    if (here === undefined) return undefined;
    if (wider === here < length) near = middle;
    else far = middle;
  }
  return at((near + far) / 2);
}

/** Unit way against the pull of the belt's two ways. */
function wayOut(wheels: readonly PlaneWheel[], by: number): { x: number; y: number } | undefined {
  const { wraps } = beltLine(wheels);
  const k = wraps.findIndex(({ wheel }) => wheel === by);
  if (k < 0) return undefined;
  const { from, turn } = wraps[k];
  const to = from + wheels[by].sense * turn;
  const [x, y] = [Math.cos(from) - Math.cos(to), Math.sin(from) - Math.sin(to)];
  const size = Math.hypot(x, y);
  return size > 1e-6 ? { x: x / size, y: y / size } : undefined;
}
