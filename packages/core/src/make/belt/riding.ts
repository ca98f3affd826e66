import { childId } from '../../numeric/random.js';
import type { BuildContext } from '../../unit/unit.js';
import { type ChosenPart, chosenParts, partPicker } from '../place/chosen-parts.js';
import { shades } from '../place/placed.js';
import type { BeltChoice } from './belt.js';
import type { BeltSteps } from './steps.js';

/** A belt carries what is on it where its outer face leans by less than 40°, a cosine. */
export const FACES_UP = 0.766;

/** The parts that ride on loops, reported once where one is missing. */
export const ridersOf = (p: BeltChoice, { surroundings, density, report }: BuildContext): ChosenPart[] =>
  p.riders === 'none'
    ? []
    : chosenParts(
        { parts: p.parts, props: p.props, propSize: 'own', held: 'foot', sides: 24 },
        surroundings,
        density,
        report,
      );

/** What moves on a loop: each part with the steps at which it is, and how it is there. */
export function riding({ riders }: BeltSteps, parts: readonly ChosenPart[], over: number, p: BeltChoice, line: number) {
  if (riders === 0) return [];
  const pick = partPicker(parts, p.order, p.seed);
  const which = Uint8Array.from({ length: riders }, (_, k) => pick(childId(line, k), k));
  const [cos, sin] = [Math.cos(p.facing), Math.sin(p.facing)];
  return parts.flatMap(({ name, mesh, scale, sized, hold }, k) => {
    const first = Float32Array.from([...which.keys()].filter((step) => which[step] === k));
    if (first.length === 0) return [];
    const s = scale * (sized ? p.size : 1);
    // turned about its way up, which looks out of the loop, and stood on the belt's outer face
    const axes = [s * cos, 0, -s * sin, 0, 0, s, 0, 0, s * sin, 0, s * cos, 0];
    const at = [(p.aside * p.width) / 2, over, 0].map(
      (value, n) => value - hold[0] * axes[n] - hold[1] * axes[4 + n] - hold[2] * axes[8 + n],
    );
    const one = [...axes, ...at, 1];
    const local = Float32Array.from({ length: 16 * first.length }, (_, i) => one[i % 16]);
    const colour =
      p.shade > 0
        ? {
            colour: shades(
              Uint32Array.from(first, (step) => childId(line, step)),
              p,
            ),
          }
        : {};
    return [{ id: `riders-${k + 1}`, name, mesh, first, local, ...colour, ...(p.carried ? { above: FACES_UP } : {}) }];
  });
}
