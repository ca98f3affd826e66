import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { type CurveSet, newUse, Surroundings, singleCurve, unitOf } from '@kelp/core';
import { controls, sheet } from '../packages/core/test/helpers.js';
import { bareContext } from './context.js';
import { fastestPair, type Result } from './measure.js';

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

/** A wavy metre of skin, this many squares each way. */
const SQUARES = 140;
const height = (x: number, z: number) => 0.05 * Math.sin(15 * x) * Math.cos(20 * z);
const skin = () => sheet(SQUARES, SQUARES, (x, z) => [x, height(x, z), z]);

/** 60 guides all over it, and a stroke across. */
const lines = new Map<string, ReturnType<typeof controls>>(
  Array.from({ length: 60 }, (_, g) => {
    const [x, z] = [0.05 + 0.9 * ((g * 0.618) % 1), 0.05 + (0.9 * g) / 60];
    const y = height(x, z);
    return [
      `guide ${g}`,
      controls([
        [x, y, z],
        [x + 0.01 * (g % 5), y + 0.03, z],
        [x + 0.03, y + 0.05, z + 0.02],
      ]),
    ] as const;
  }),
);
const guides = [...lines.keys()];
lines.set(
  'stroke',
  controls([
    [0.1, 0.05, 0.5],
    [0.9, 0.05, 0.5],
  ]),
);

const SHAPES: readonly (readonly [string, Record<string, unknown>])[] = [
  ['layers', {}],
  ['clump', {}],
  ['frizz', {}],
  ['curl', {}],
  ['cut', {}],
  ['comb', { strokes: ['stroke'], reach: 1 }],
  ['part', { lines: ['stroke'], reach: 1 }],
  ['droop', {}],
  ['clear', {}],
  ['gather', {}],
];

/** 100,000 strands of 12 points: grown and shaped against copying what comes out; how the cost and the memory grow. */
export async function strandsBench(): Promise<Result[]> {
  const context = { ...bareContext(5e-5, new Surroundings(new Map([['skin', skin()]]))), curves: lines };
  const built = (stage: 'path' | 'shape', id: string, set: object, input?: CurveSet): CurveSet =>
    (unitOf(stage, id) as unknown as { build(...given: unknown[]): CurveSet }).build(
      input,
      { ...newUse(stage, id).parameters, ...set },
      context,
    );
  const arrays = (set: CurveSet) => [
    set.start,
    set.position,
    set.closed,
    set.id,
    ...Object.values(set.pointData),
    ...Object.values(set.curveData),
  ];
  const bytes = (set: CurveSet) => arrays(set).reduce((sum, { byteLength }) => sum + byteLength, 0);
  const row = (name: string, value: number, goal: number): Result => ({ name, value, goal, better: 'less' });
  const against = (work: () => CurveSet, copied: CurveSet): [number, number] =>
    fastestPair(work, () => arrays(copied).map((array) => array.slice()), 6);
  const coat = built('path', 'grown', { count: 100_000, guides });
  const [grown, copy] = against(() => built('path', 'grown', { count: 100_000, guides }), coat);
  const rows = [
    row(`100,000 strands grown from 60 guides (${grown.toFixed(0)} ms) over copying them`, grown / copy, 15),
  ];
  for (const [id, set] of SHAPES) {
    const out = built('shape', id, set, coat);
    // what is gathered is less than what it is gathered from
    const [shaped, copied] = against(() => built('shape', id, set, coat), id === 'gather' ? coat : out);
    rows.push(row(`${id} on 100,000 strands (${shaped.toFixed(0)} ms) over copying them`, shaped / copied, 12));
  }
  const ms = (count: number) =>
    against(() => built('path', 'grown', { count, guides }), singleCurve([0, 0, 0, 1, 0, 0]))[0];
  const [some, many] = [ms(20_000), ms(400_000)];
  rows.push(
    row(
      `grown from 20,000 to 400,000 strands (${some.toFixed(0)} to ${many.toFixed(0)} ms): exponent`,
      Math.log(many / some) / Math.log(20),
      1.05,
    ),
  );
  // at the end of the last stage its input is still there: what is alive then, over what comes out
  const live = async () => {
    // buffers are given back beside the work, a moment after they were let go
    for (let k = 0; k < 4; k++) {
      collect();
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    return process.memoryUsage().arrayBuffers;
  };
  const before = await live();
  const last = built(
    'shape',
    'frizz',
    {},
    built('shape', 'clump', {}, built('path', 'grown', { count: 100_000, guides })),
  );
  const most = (await live()) - before + bytes(last);
  rows.push(
    row(
      `memory of the last of three stages with its input, over the bytes of the curves (${(bytes(last) / 2 ** 20).toFixed(0)} MB)`,
      most / bytes(last),
      2.5,
    ),
  );
  return rows;
}
