import { addScaled, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Fix } from '../../unit/finding.js';
import type { BuildContext } from '../../unit/unit.js';
import type { PlaneWheel } from './belt-line.js';
import type { WheelPlace } from './places.js';
import type { WheelsChoice } from './wheels.js';

/** Of one kind no more are reported: each carries the whole list of wheels in its fix. */
const MAX_REPORTED = 12;
/** A fix leaves this much more than is needed. */
const CLEAR = 0.98;

const nameOf = (place: WheelPlace, p: WheelsChoice): string => `wheel ${1 + p.wheels.indexOf(place.pick)}`;

/** The list with one wheel changed. */
const changed = (place: WheelPlace, change: object, p: WheelsChoice) =>
  p.wheels.map((pick) => (pick === place.pick ? { ...pick, ...change } : pick));

export function reportGone(gone: number, { report }: BuildContext): void {
  if (gone === 0) return;
  report({
    code: 'wheel-gone',
    severity: 'error',
    message: `${gone === 1 ? 'A wheel is' : `${gone} wheels are`} on a prop that is missing, hidden or empty; the belt runs around the others. Restore the prop, or remove the wheel from the list.`,
  });
}

export function reportFew(count: number, { report }: BuildContext): void {
  report({
    code: 'wheels-few',
    severity: 'warning',
    message: `A belt needs two wheels; there ${count === 1 ? 'is one' : 'are none'}. Click to place wheels, or pick props that are wheels.`,
  });
}

/** Wheels that have no room beside each other, whatever the belt does. */
export function reportOverlaps(
  places: readonly WheelPlace[],
  round: readonly PlaneWheel[],
  reach: number,
  p: WheelsChoice,
  { report }: BuildContext,
): void {
  let reported = 0;
  for (let b = 1; b < round.length; b++)
    for (let a = 0; a < b && reported < MAX_REPORTED; a++) {
      const far = Math.hypot(round[a].x - round[b].x, round[a].y - round[b].y);
      const need = round[a].radius + round[b].radius - 2 * reach;
      if (far >= need) continue;
      reported++;
      report({
        code: 'wheels-overlap',
        severity: 'warning',
        message: `${capital(nameOf(places[a], p))} and ${nameOf(places[b], p)} intersect by {value}. Move them apart, or make them smaller.`,
        place: between(places[a].at, places[b].at),
        size: { value: need - far, limit: 0, kind: 'length' },
        fix: smaller(places[a], places[b], far, p),
      });
    }
}

/** Two wheels between which no belt fits. */
export function reportStuck(
  { a, b }: { a: number; b: number },
  places: readonly WheelPlace[],
  round: readonly PlaneWheel[],
  reach: number,
  p: WheelsChoice,
  { report }: BuildContext,
): void {
  const far = Math.hypot(round[a].x - round[b].x, round[a].y - round[b].y);
  const crosses = round[a].sense !== round[b].sense;
  const need = crosses ? round[a].radius + round[b].radius : Math.abs(round[a].radius - round[b].radius);
  report({
    code: 'belt-stuck',
    severity: 'error',
    message: crosses
      ? `No space for the belt to cross between ${nameOf(places[a], p)} and ${nameOf(places[b], p)}: ${nameOf(places[b], p)} is skipped. Move them apart, or make them smaller.`
      : `${capital(nameOf(places[a], p))} and ${nameOf(places[b], p)} are one inside the other: ${nameOf(places[b], p)} is skipped. Move them apart, or make them equal.`,
    place: between(places[a].at, places[b].at),
    size: { value: far, limit: need, kind: 'length' },
    fix: crosses
      ? smaller(places[a], places[b], far - 2 * reach, p)
      : {
          label: 'Remove the wheel',
          kind: 'set',
          stage: 'path',
          parameter: 'wheels',
          value: p.wheels.filter((pick) => pick !== places[b].pick),
        },
  });
}

/** Both no larger than lets them stand beside each other; none where they are in one place. */
function smaller(a: WheelPlace, b: WheelPlace, far: number, p: WheelsChoice): Fix | undefined {
  const [one, two] = [a.radius ?? p.radius, b.radius ?? p.radius];
  const by = (CLEAR * far) / (one + two);
  if (!(by * Math.min(one, two) > 1e-4)) return undefined;
  const value = p.wheels.map((pick) =>
    pick === a.pick ? { ...pick, radius: by * one } : pick === b.pick ? { ...pick, radius: by * two } : pick,
  );
  return { label: 'Reduce both radii', kind: 'set', stage: 'path', parameter: 'wheels', value };
}

export function reportUntouched(
  untouched: readonly number[],
  places: readonly WheelPlace[],
  p: WheelsChoice,
  { report }: BuildContext,
): void {
  for (const i of untouched.slice(0, MAX_REPORTED))
    report({
      code: 'wheel-untouched',
      severity: 'warning',
      message: `The belt does not touch ${nameOf(places[i], p)}. Switch its side, move the wheel, or remove it.`,
      place: [...places[i].at],
      fix: {
        label: 'Switch side',
        kind: 'set',
        stage: 'path',
        parameter: 'wheels',
        value: changed(places[i], { outside: !places[i].pick.outside }, p),
      },
      others: [
        {
          label: 'Remove the wheel',
          kind: 'set',
          stage: 'path',
          parameter: 'wheels',
          value: p.wheels.filter((pick) => pick !== places[i].pick),
        },
      ],
    });
}

/** No place of the wheel that takes up gives the length asked for. */
export function reportTension(led: number, by: WheelPlace, p: WheelsChoice, { report }: BuildContext): void {
  report({
    code: 'belt-length',
    severity: 'error',
    message: `No position of ${nameOf(by, p)} gives a belt length of {value}: the routed length {limit} is used. Change the length, or choose another tensioner.`,
    size: { value: p.length, limit: led, kind: 'length' },
    fix: { label: 'Use the drawn length', kind: 'set', stage: 'path', parameter: 'length', value: led },
  });
}

const between = (a: Vec3, b: Vec3): Vec3 => addScaled(vec3(), [a[0] / 2, a[1] / 2, a[2] / 2], b, 0.5);
const capital = (words: string): string => words[0].toUpperCase() + words.slice(1);
