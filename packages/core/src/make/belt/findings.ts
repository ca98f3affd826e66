import { pointOf } from '../../numeric/vector.js';
import type { BuildContext } from '../../unit/unit.js';
import type { WheelArc } from './arcs.js';
import type { BeltChoice } from './belt.js';
import type { BeltRail } from './rails.js';
import { FACES_UP } from './riding.js';
import { alikeParts, type BeltSteps, closes, isStepped, MAX_STEPS } from './steps.js';
import { liesInside, teethOf } from './wheels.js';

/** Steps that fit but for less than this share of one fit. */
const FITS = 0.01;
/** A fix goes so far beyond a limit that it is not met again: teeth of another pitch are of another depth too. */
const CLEAR = 1.01;
/** A tooth that is off by more than this share of a pitch runs up on its wheel. */
const MISS = 0.05;
/** Steps a loop among which one is looked for that ends as it began. */
const MAX_TRIED = 2000;

/** Reports lines that are not closed: nothing runs along them. */
export function reportOpen(rails: readonly BeltRail[], p: BeltChoice, { report }: BuildContext): void {
  const open = rails.find(({ closed }) => !closed);
  if (!open) return;
  report({
    code: 'belt-open',
    severity: 'warning',
    message: `The line is open, so the belt stands still${p.run === 0 ? '' : ' although it has travel set'}. Close the line, or use a Wheels path.`,
    place: pointOf(open.rail.position, 0),
  });
}

/** Reports more steps than can be made, and, where exact ones are asked for, by how much they do not fit. */
export function reportExact(steps: readonly BeltSteps[], p: BeltChoice, { report }: BuildContext): void {
  for (const { length, count, riders, asked } of steps) {
    for (const [made, wanted, parameter, words] of [
      [count, asked.count, 'pitch', 'pitches'],
      [riders, asked.riders, 'apart', 'spacings'],
    ] as const) {
      if (wanted > MAX_STEPS + 1)
        report({
          code: 'too-many-steps',
          severity: 'warning',
          message: `Needs ${Math.round(wanted).toLocaleString('en')} ${words} (limit ${made.toLocaleString('en')}): made further apart. Increase the pitch.`,
          size: { value: Math.round(wanted), limit: MAX_STEPS, kind: 'count' },
          fix: {
            label: 'Use the natural pitch',
            kind: 'set',
            stage: 'make',
            parameter,
            value: (CLEAR * length) / made,
          },
        });
      else if (p.exact && made > 0 && Math.abs(wanted - made) > FITS)
        report({
          code: 'steps-uneven',
          severity: 'warning',
          message: `The line is ${wanted.toFixed(2)} ${words} long: the pitch is ${wanted > made ? 'stretched' : 'reduced'} to fit ${made.toLocaleString('en')}. Change the belt length, or use the number that fits.`,
          size: { value: Math.abs(wanted - made) * (length / wanted), limit: 0, kind: 'length' },
          fix: { label: 'Use the number that fits', kind: 'set', stage: 'make', parameter, value: length / made },
        });
    }
  }
}

/** Reports wheels that no whole number of teeth fits on. */
export function reportTeeth(
  rails: readonly BeltRail[],
  steps: readonly BeltSteps[],
  p: BeltChoice,
  { report }: BuildContext,
): void {
  if (p.kind !== 'toothed' && p.kind !== 'roller') return;
  let worst: { wheel: number; off: number; teeth: number; place: [number, number, number] } | undefined;
  rails.forEach((rail, c) => {
    for (const arc of rail.arcs) {
      const whole = teethOf(arc, rail, steps[c], p);
      const teeth = (2 * Math.PI * arc.radius * steps[c].count) / steps[c].length;
      // what is led a little way round it does not run up by much
      const off = (Math.abs(teeth - whole) * arc.turn) / (2 * Math.PI);
      if (whole > 0 && off > Math.max(MISS, worst?.off ?? 0))
        worst = { wheel: arc.number + 1, off, teeth, place: arc.centre };
    }
  });
  if (!worst) return;
  report({
    code: 'teeth-miss',
    severity: 'warning',
    message: `Wheel ${worst.wheel} fits ${worst.teeth.toFixed(2)} teeth, ${worst.off.toFixed(2)} of a pitch off: {value} (limit {limit}). Round sizes to whole teeth.`,
    place: worst.place,
    size: { value: worst.off * p.pitch, limit: MISS * p.pitch, kind: 'length' },
    fix: { label: 'Round to whole teeth', kind: 'set', stage: 'path', parameter: 'pitch', value: p.pitch },
  });
}

/** Reports where the end of the clock's loop is not as its beginning: wheels, or what moves on the belt. */
export function reportJumps(
  rails: readonly BeltRail[],
  steps: readonly BeltSteps[],
  p: BeltChoice,
  { report }: BuildContext,
): void {
  if (p.run === 0) return;
  const spokes = p.wheel === 'spokes' ? p.spokes : 0;
  const jumping = (times: number): string[] =>
    rails.flatMap((rail, c) => {
      const travel = (steps[c].travel / p.run) * times;
      const off =
        p.wheel === 'none'
          ? []
          : rail.arcs.filter((arc) => {
              const alike = alikeParts(spokes, teethOf(arc, rail, steps[c], p));
              return !arc.there && alike > 0 && !closes(travel, arc.radius, alike);
            });
      return [
        ...off.map(({ number }) => `wheel ${number + 1}`),
        ...(ridersJump(steps[c], times, p) ? ['the riders'] : []),
      ];
    });
  const now = jumping(p.run);
  if (now.length === 0) return;
  const sign = Math.sign(p.run);
  const tried = Array.from({ length: MAX_TRIED }, (_, k) => k + 1).sort(
    (a, b) => Math.abs(a - Math.abs(p.run)) - Math.abs(b - Math.abs(p.run)),
  );
  const fits = tried.find((times) => jumping(sign * times).length === 0);
  report({
    code: 'loop-jumps',
    severity: 'note',
    message: `${now.length > 3 ? `${now.length} wheels` : now.join(', ')} ${now.length > 1 ? 'do' : 'does'} not end the loop where ${now.length > 1 ? 'they' : 'it'} started: the animation jumps. ${fits ? 'Set a travel that fits' : 'Use disc wheels, which look alike all round'}.`,
    size: { value: now.length, limit: 0, kind: 'count' },
    fix: fits
      ? { label: `Set the travel to ${sign * fits}`, kind: 'set', stage: 'make', parameter: 'run', value: sign * fits }
      : { label: 'Use discs', kind: 'set', stage: 'make', parameter: 'wheel', value: 'disc' },
  });
}

/** Reports wheels that press on the face on which something rides. */
export function reportMet(rails: readonly BeltRail[], p: BeltChoice, { report }: BuildContext): void {
  if (p.riders === 'none') return;
  const met = rails.flatMap((rail) =>
    rail.arcs.filter((arc) => arc.off <= 0 && !liesInside(arc, rail) && (!p.carried || facesUp(rail, arc))),
  );
  if (met.length === 0) return;
  const names = met.map(({ number }) => `wheel ${number + 1}`).join(', ');
  report({
    code: 'riders-meet',
    severity: 'warning',
    message: `The riders intersect ${names} on the outside of the loop. Switch the side of the wheel, or remove the riders.`,
    place: [...met[0].centre],
    size: { value: met.length, limit: 0, kind: 'count' },
    fix: { label: 'Remove the riders', kind: 'set', stage: 'make', parameter: 'riders', value: 'none' },
  });
}

/** Whether a belt carries what is on it where it passes a wheel. */
function facesUp({ rail, arcs }: BeltRail, { first, last }: WheelArc): boolean {
  for (let p = first; p <= last; p++) if (rail.outward[3 * (p - arcs[0].first) + 1] > FACES_UP) return true;
  return false;
}

/** Whether what moves on a loop is at its end where something else was. */
function ridersJump({ riders, count }: BeltSteps, times: number, p: BeltChoice): boolean {
  if (riders === 0) return false;
  if (isStepped(p.kind) && count % riders !== 0) return true;
  if (p.shade > 0) return times % riders !== 0;
  const all = p.parts.map(({ times: own }) => ({ times: Math.max(1, Number(own)) }));
  if (all.length === 1 || times % riders === 0) return false;
  if (p.order === 'chance') return true;
  const pattern = all.reduce((sum, { times: own }) => sum + own, 0);
  return riders % pattern !== 0 || times % pattern !== 0;
}
