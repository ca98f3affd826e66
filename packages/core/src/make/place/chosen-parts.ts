import { boundsOf } from '../../mesh/measure.js';
import type { Mesh } from '../../mesh/mesh.js';
import { hashText, randomAt } from '../../numeric/random.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { Finding } from '../../unit/finding.js';
import type { LevelValue } from '../../unit/parameters.js';
import { propElement, reportElement } from '../elements/prop-element.js';
import { BUILT_IN, type BuiltIn, builtInMesh, holdOf, isBuiltIn } from './parts.js';

/** One of the parts that are placed. */
export interface ChosenPart {
  name: string;
  mesh: Mesh;
  /** What the mesh is multiplied by for a part of size 1; of a prop as large as it is, 1 whatever the size. */
  scale: number;
  /** Whether the scale is of the size asked for. */
  sized: boolean;
  /** What of its mesh is on the line. */
  hold: readonly [number, number, number];
  /** Half its extents about that, at scale 1: to all sides and along x, y, z. */
  reach: readonly [number, number, number];
  times: number;
}

interface PartChoice {
  parts: readonly LevelValue[];
  props: readonly string[];
  propSize: string;
  held: string;
  sides: number;
}

/** What the parts are. A prop that is not there is stood for by a block, and reported where `report` is given. */
export function chosenParts(
  { parts, props, propSize, held, sides }: PartChoice,
  surroundings: Surroundings | undefined,
  density: number,
  report?: (finding: Finding) => void,
): ChosenPart[] {
  const reported = new Set<string>();
  return parts.map((level) => {
    const part = String(level['part']);
    const own = Number(level['size']);
    const name = BUILT_IN.find(({ value }) => value === part)?.label;
    const prop = isBuiltIn(part) ? '' : (props[Number(part.slice('prop-'.length)) - 1] ?? '');
    const element = isBuiltIn(part) || !surroundings ? undefined : propElement(prop, surroundings);
    if (!isBuiltIn(part) && surroundings && report && !reported.has(prop)) {
      reported.add(prop);
      reportElement(prop, element, report);
    }
    const mesh = element ?? builtInMesh(isBuiltIn(part) ? part : STAND_IN, Math.max(6, sides * density));
    const { min, max } = boundsOf(mesh.position);
    const sized = !element || propSize === 'asked';
    const broad = element ? Math.max(max[0] - min[0], max[2] - min[2]) / 2 || 1 : 1;
    return {
      name: name ?? 'Props',
      mesh,
      scale: own / (sized ? broad : 1),
      sized,
      hold: holdOf(mesh, held),
      reach: [0, 1, 2].map((k) => (max[k] - min[k]) / 2) as [number, number, number],
      times: Math.max(1, Number(level['times'])),
    };
  });
}

const STAND_IN: BuiltIn = 'block';
const CHANCE = hashText('part');

/** Which part is at which place of a line: by turns each this many times, or at random as often as that. */
export function partPicker(
  parts: readonly Pick<ChosenPart, 'times'>[],
  order: string,
  seed: number,
): (id: number, ordinal: number) => number {
  if (parts.length === 1) return () => 0;
  const all = parts.reduce((sum, { times }) => sum + times, 0);
  const last = Float64Array.from(parts, ({ times }, k) =>
    parts.slice(0, k).reduce((sum, one) => sum + one.times, times),
  );
  const of = (turn: number): number =>
    Math.max(
      0,
      last.findIndex((until) => turn < until),
    );
  return order === 'chance'
    ? (id) => of(Math.floor(all * randomAt(seed, id, CHANCE)))
    : (_, ordinal) => of(ordinal % all);
}
