import { type CurveSet, createHit, Surface, Surroundings, singleCurve, unitOf } from '@kelp/core';
import { Cloth } from '../packages/core/src/make/elements/cloth.js';
import { framedLines } from '../packages/core/src/make/elements/framed-lines.js';
import { arcPlaces, lathe } from '../packages/core/src/make/elements/solids.js';
import { legsOf } from '../packages/core/src/make/stitch/legs.js';
import { type StitchChoice, sew, stitchesOf } from '../packages/core/src/make/stitch/threads.js';
import { bareContext } from './context.js';
import { fastest, fastestPair, type Result } from './measure.js';

/** A line that winds on for this many metres. */
const line = (length: number): CurveSet =>
  singleCurve(
    Float64Array.from({ length: 3 * 600 }, (_, i) => {
      const t = Math.floor(i / 3) / 599;
      return [length * t, Math.sin(9 * t), Math.cos(7 * t)][i % 3];
    }),
    { smooth: true },
  );

const defaults = (id: string) =>
  Object.fromEntries(Object.entries(unitOf('make', id).parameters).map(([name, one]) => [name, one.default]));

/** Elements to matrices; a spacing that is dragged; stitches on a dense prop; links. */
export function elementsBench(): Result[] {
  const row = (name: string, value: number, goal: number): Result => ({ name, value, goal, better: 'less' });
  const place = (count: number, length: number) => {
    const unit = unitOf('make', 'place');
    const parameters = { ...defaults('place'), size: 0.001, spacing: length / count };
    const input = line(length);
    let old: ReturnType<typeof unit.build> | undefined;
    return () => {
      // as when a number is dragged: what was made before is no longer wanted
      old = unit.build(input, parameters, { ...bareContext(0.001), spare: old?.parts });
      return old;
    };
  };
  const placeMany = place(100_000, 1000);
  const [part] = placeMany().parts;
  if (part.kind !== 'placed') throw new Error('Elements are placed');
  const matrix = part.places.matrix.slice();
  const [many, copied] = fastestPair(placeMany, () => matrix.slice(), 10);
  const dragged = fastest(place(10_000, 100), 12);
  const chain = unitOf('make', 'chain');
  const links = fastest(() => chain.build(line(180), { ...defaults('chain') }, bareContext(0.01)), 3);
  const [sewing, bare, calls] = stitches();
  return [
    row(`100,000 elements along a line (${many.toFixed(0)} ms) over copying their matrices`, many / copied, 10),
    row('10,000 elements after a spacing was dragged, milliseconds to buffers', dragged, 16),
    row(
      `5,000 stitches on a prop of 70,000 faces (${sewing.toFixed(0)} ms) over their ${calls.toLocaleString('en')} bare questions`,
      sewing / bare,
      2,
    ),
    row('10,000 links of a chain, milliseconds', links, 400),
  ];
}

/** Stitches round a ball, and what they ask of it asked alone. */
function stitches(): [number, number, number] {
  const ball = lathe(arcPlaces(0, 1, -Math.PI / 2, Math.PI / 2, 188), 188);
  const surface = Surface.of(ball);
  const asked: number[] = [];
  const props = new Surroundings(new Map([['ball', surface]]));
  const circle = singleCurve(
    Float64Array.from({ length: 3 * 500 }, (_, i) => {
      const t = (2 * Math.PI * Math.floor(i / 3)) / 500;
      return [0.9 * Math.cos(t), 0.436, 0.9 * Math.sin(t)][i % 3];
    }),
    { closed: true, smooth: true },
  );
  const framed = framedLines(circle, false);
  const p = { ...defaults('stitch'), radius: 0.0001 } as unknown as StitchChoice;
  const { legs } = legsOf(framed, framed.lengths[0] / 5000, false, 1e5);
  const all = [...stitchesOf(legs, framed.lines.id, framed.lengths, framed.lines.closed, p)];
  const cloth = new Cloth(framed, props, 0.05);
  const closest = props.closest.bind(props);
  props.closest = (x, y, z, hit, within, only) => {
    asked.push(x, y, z);
    return closest(x, y, z, hit, within, only);
  };
  sew(all, cloth, p);
  props.closest = closest;
  const hit = createHit();
  const [sewing, bare] = fastestPair(
    () => sew(all, cloth, p),
    () => {
      for (let i = 0; i < asked.length; i += 3) surface.closest(asked[i], asked[i + 1], asked[i + 2], hit, 0.05);
    },
    5,
  );
  return [sewing, bare, asked.length / 3];
}
