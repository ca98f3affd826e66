import { type CurveSet, newUse, Surroundings, singleCurve, unitOf } from '@kelp/core';
import { joinCurves } from '../packages/core/src/curve/carry.js';
import { realMesh } from '../packages/core/src/part/part.js';
import type { Made, PlacedPart } from '../packages/core/src/unit/carriers.js';
import { bareContext } from './context.js';
import { fastestPair, type Result } from './measure.js';

const TRUSSES = 200;
const BAYS = 40;

/** Gently bent lines side by side. */
const lines = (count: number): CurveSet =>
  joinCurves(
    Array.from({ length: count }, (_, k) =>
      singleCurve(Array.from({ length: 24 }, (_point, i) => [i, 0.4 * Math.sin(i / 4 + k), 2 * k]).flat(), {
        id: k + 1,
        smooth: true,
      }),
    ),
  );

/** Trusses by the hundred: to instances against copying their matrices, baked against copying what is baked. */
export async function trussBench(): Promise<Result[]> {
  const truss = unitOf('make', 'truss') as unknown as {
    build(input: CurveSet, parameters: object, context: object): Made;
  };
  // what was made last is made again in its memory, as an evaluation does it
  let spare: Made['parts'] = [];
  const make = (input: CurveSet, set: object = {}) => {
    const made = truss.build(
      input,
      { ...newUse('make', 'truss', 'ball-lattice').parameters, by: 'count', bays: BAYS, depth: 0.5, ...set },
      { ...bareContext(0.25, new Surroundings(new Map())), spare },
    );
    spare = made.parts;
    return made;
  };
  const input = lines(TRUSSES);
  const placed = make(input).parts.filter((part): part is PlacedPart => part.kind === 'placed');
  const matrices = placed.map(({ places }) => places.matrix);
  const count = placed.reduce((sum, { places }) => sum + places.id.length, 0);
  // joints placed anew each time: turned by next to nothing
  let turn = 0;
  const anew = () => make(input, { turn: 1e-9 * ++turn });
  const [built, copied] = fastestPair(anew, () => matrices.map((matrix) => matrix.slice()), 24);
  // lines of their own each time: all is laid out anew
  const [thinner, first] = fastestPair(
    () => make(input, { web: 0.05 + 1e-9 * ++turn }),
    () => make({ ...input }),
    8,
  );
  const meshes = placed.map((part) => realMesh(part));
  const arrays = meshes.flatMap(({ position, normal, uv, index }) => [position, normal, uv, index]);
  const [baked, bytes] = fastestPair(
    () => placed.map((part) => realMesh(part)),
    () => arrays.map((array) => array.slice()),
    5,
  );
  const time = (many: number) =>
    fastestPair(
      () => make(lines(many)),
      () => 0,
      6,
    )[0];
  const [few, lot] = [time(20), time(400)];
  return [
    {
      name: `${TRUSSES} trusses of ${BAYS} bays, ${count.toLocaleString('en')} members and balls (${built.toFixed(0)} ms) over copying their matrices`,
      value: built / copied,
      goal: 12,
      better: 'less',
    },
    {
      name: `after a diagonal was made thinner (${thinner.toFixed(0)} ms) over laying out new lines (${first.toFixed(0)} ms)`,
      value: thinner / first,
      goal: 0.7,
      better: 'less',
    },
    {
      name: `the same baked (${baked.toFixed(0)} ms) over copying their bytes`,
      value: baked / bytes,
      goal: 4,
      better: 'less',
    },
    {
      name: `from 20 to 400 trusses (${few.toFixed(0)} to ${lot.toFixed(0)} ms): exponent`,
      value: Math.log(lot / few) / Math.log(20),
      goal: 1.1,
      better: 'less',
    },
  ];
}
