import { newUse, readyFor, singleCurve, unitOf } from '@kelp/core';
import { joinCurves } from '../packages/core/src/curve/carry.js';
import { meshBytes } from '../packages/core/src/mesh/mesh.js';
import type { Made, MeshPart } from '../packages/core/src/unit/carriers.js';
import { bareContext } from './context.js';
import { fastestPair, type Result } from './measure.js';

/** Lines from wall to wall, in rows over each other. */
const lines = (count: number) =>
  joinCurves(
    Array.from({ length: count }, (_, k) => {
      const [y, z] = [2 - 0.06 * (k % 10), 0.08 * Math.floor(k / 10)];
      return singleCurve([0, y, z, 0.5, y - 0.05, z, 1, y, z], { id: k + 1, smooth: true });
    }),
  );

const tendrils = (count: number, parameters: object, step: (share: number) => void = () => {}, density = 1): Made =>
  (unitOf('make', 'tendrils') as unknown as { build(...given: unknown[]): Made }).build(
    lines(count),
    { ...newUse('make', 'tendrils').parameters, ...parameters },
    { ...bareContext(0.008), density, step },
  );

/** Strands with their own skins against copying them, at ten times the count; one skin's first word, and its cost by a sample. */
export async function tendrilsBench(): Promise<Result[]> {
  await readyFor({ pieces: [{ make: newUse('make', 'tendrils', 'slime-skin') }] as never });
  const row = (name: string, value: number, goal: number): Result => ({ name, value, goal, better: 'less' });
  const own = (count: number): [number, number] => {
    const made = tendrils(count, {});
    const meshes = made.parts.map((part) => (part as MeshPart).mesh);
    const copy = () =>
      meshes.map(({ position, normal, uv, index }) => [position, normal, uv, index].map((array) => array.slice()));
    return fastestPair(() => tendrils(count, {}), copy, 6);
  };
  const [some, copied] = own(100);
  const [many, manyCopied] = own(1000);
  // what a slider asks for: a draft
  let first = Number.NaN;
  let started = performance.now();
  const reported = () => {
    if (Number.isNaN(first)) first = performance.now() - started;
  };
  tendrils(2, { skin: 'merged' });
  started = performance.now();
  const skin = (tendrils(40, { skin: 'merged' }, reported, 0.5).parts[0] as MeshPart).mesh;
  const all = performance.now() - started;
  return [
    row(`100 strands with drips and links (${some.toFixed(0)} ms) over copying their skins`, some / copied, 40),
    row(`1,000 of them (${many.toFixed(0)} ms) over copying theirs`, many / manyCopied, 40),
    row(
      `one skin of 40 strands as a draft (${(meshBytes(skin) / 2 ** 20).toFixed(1)} MB, ${all.toFixed(0)} ms): milliseconds to its first word`,
      first,
      200,
    ),
  ];
}
