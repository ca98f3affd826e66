import { newUse, type RideTrack, riddenTo, unitOf } from '@kelp/core';
import { beltLine, type PlaneWheel } from '../packages/core/src/path/wheels/belt-line.js';
import type { Made } from '../packages/core/src/unit/carriers.js';
import { bareContext } from './context.js';
import { fastest, fastestPair, type Result } from './measure.js';

const WHEELS = 20;
/** Points of a circle in the hull that is compared with. */
const ROUND = 64;

/** Wheels in a ring, some pressed on from outside. */
const wheels = (count: number, inside = false): PlaneWheel[] =>
  Array.from({ length: count }, (_, k) => {
    const angle = (2 * Math.PI * k) / count;
    const out = !inside && k % 3 === 2;
    const far = out ? 0.8 : 1;
    return { x: far * Math.cos(angle), y: far * Math.sin(angle), radius: 0.04 + 0.01 * (k % 3), sense: out ? -1 : 1 };
  });

/** Hull of points (Andrew: Another efficient algorithm for convex hulls in two dimensions, 1979). */
function hull(points: [number, number][]): [number, number][] {
  points.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (all: [number, number][]) => {
    const out: [number, number][] = [];
    for (const p of all) {
      for (let n = out.length; n > 1; n = out.length) {
        const [a, b] = [out[n - 2], out[n - 1]];
        if ((b[0] - a[0]) * (p[1] - a[1]) > (b[1] - a[1]) * (p[0] - a[0])) break;
        out.pop();
      }
      out.push(p);
    }
    return out;
  };
  return [...half(points), ...half(points.toReversed())];
}

/** A belt against the hull of its wheels; what moves on one, at the rate of a display. */
export async function beltBench(): Promise<Result[]> {
  const all = wheels(WHEELS);
  const circles = () =>
    all.flatMap(({ x, y, radius }) =>
      Array.from({ length: ROUND }, (_, k): [number, number] => [
        x + radius * Math.cos((2 * Math.PI * k) / ROUND),
        y + radius * Math.sin((2 * Math.PI * k) / ROUND),
      ]),
    );
  const [solved, hulled] = fastestPair(
    () => {
      for (let k = 0; k < 20; k++) beltLine(all);
    },
    () => {
      for (let k = 0; k < 20; k++) hull(circles());
    },
  );
  const picks = all.map(({ x, y, radius, sense }, k) => ({
    id: String(k),
    position: [x, y, 0],
    radius,
    ...(sense < 0 ? { outside: true } : {}),
  }));
  const context = bareContext(0.003);
  const build = <T>(stage: 'path' | 'make', id: string, input: unknown, parameters: object) =>
    (unitOf(stage, id) as unknown as { build(...given: unknown[]): T }).build(
      input,
      { ...newUse(stage, id).parameters, ...parameters },
      context,
    );
  const line = () => build('path', 'wheels', undefined, { wheels: picks });
  const led = fastest(() => {
    for (let k = 0; k < 20; k++) line();
  });
  const made = build<Made>('make', 'belt', line(), { kind: 'shoes', width: 0.05, pitch: 0.003, run: 1 });
  const [track] = made.motion.filter((one): one is RideTrack & { part: string } => one.kind === 'ride');
  const out = new Float32Array(track.local.length);
  let phase = 0;
  const step = () => {
    phase += 0.01;
    return riddenTo(track, phase, out);
  };
  const frame = fastest(step) * (2000 / track.first.length);
  return [
    {
      name: `a belt round ${WHEELS} wheels solved, over the hull of their circles`,
      value: solved / hulled,
      goal: 50,
      better: 'less',
    },
    { name: 'the same with all its points', value: led / hulled, goal: 50, better: 'less' },
    {
      name: `milliseconds a frame for 2,000 that ride on it (measured with ${track.first.length.toLocaleString('en')})`,
      value: frame,
      goal: 4,
      better: 'less',
    },
  ];
}
