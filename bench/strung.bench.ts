import { createHit, newUse, Surface, Surroundings, unitOf } from '@kelp/core';
import { arcPlaces, lathe } from '../packages/core/src/make/elements/solids.js';
import { spanBetween, writeSpan } from '../packages/core/src/path/strung/hanging.js';
import { Obstacles } from '../packages/core/src/path/strung/obstacles.js';
import { bareContext } from './context.js';
import { fastest, fastestPair, type Result } from './measure.js';

const UP: [number, number, number] = [0, 1, 0];
const STEPS = 31;

/** Catenaries against copying them; spans over a dense prop against the same questions asked alone; a slider. */
export function strungBench(): Result[] {
  const row = (name: string, value: number, goal: number): Result => ({ name, value, goal, better: 'less' });
  const ends = Array.from({ length: 10_000 }, (_, k): [number, number, number][] => [
    [k % 100, 2 + Math.sin(k), Math.floor(k / 100)],
    [(k % 100) + 1, 2 + Math.cos(k), Math.floor(k / 100) + 0.3],
  ]);
  const room = new Float64Array(ends.length * 3 * (STEPS + 1));
  const hang = () => {
    ends.forEach(([from, to], k) => {
      const span = spanBetween(from, to, UP, { by: 'slack', slack: 0.02 + (k % 50) / 100 });
      writeSpan({ ...span, steps: STEPS }, UP, room, 3 * (STEPS + 1) * k);
    });
    return room;
  };
  const [hung, copied] = fastestPair(hang, () => room.slice(), 8);
  const [tested, bare, calls] = spansOverBall();
  const anchors = Array.from({ length: 2001 }, (_, k) => ({
    on: 'place',
    id: `p${k}`,
    position: [k, Math.sin(k), Math.cos(3 * k)],
  }));
  const unit = unitOf('path', 'strung');
  let slack = 0.02;
  const slide = () => {
    slack += 1e-4;
    const parameters = { ...newUse('path', 'strung').parameters, anchors, slack: { least: slack, most: 0.2 } };
    return unit.build(undefined, parameters as never, bareContext(0.004));
  };
  return [
    row(`10,000 catenaries of 32 points (${hung.toFixed(0)} ms) over copying them`, hung / copied, 40),
    row(
      `1,000 spans over a prop of 70,000 faces (${tested.toFixed(1)} ms) over their ${calls.toLocaleString('en')} bare questions`,
      tested / bare,
      2,
    ),
    row('2,000 strung cables after a slider was moved, milliseconds', fastest(slide, 6), 50),
  ];
}

/** Spans close over a ball, tested; and as many rays and nearest places asked of the prop alone. */
function spansOverBall(): [number, number, number] {
  const surface = Surface.of(lathe(arcPlaces(0, 1, -Math.PI / 2, Math.PI / 2, 188), 188));
  const props = new Surroundings(new Map([['ball', surface]]));
  const lines = Array.from({ length: 1000 }, (_, k) => {
    const angle = (2 * Math.PI * k) / 1000;
    const [x, z] = [Math.cos(angle), Math.sin(angle)];
    const span = spanBetween([1.6 * x, 1.2, 1.6 * z], [-1.6 * x, 1.3, -1.6 * z], UP, { by: 'slack', slack: 0.01 });
    const line = new Float64Array(3 * (span.steps + 1));
    writeSpan(span, UP, line, 0);
    return line;
  });
  const rays: number[] = [];
  const places: number[] = [];
  const cast = props.cast.bind(props);
  const closest = props.closest.bind(props);
  const obstacles = new Obstacles(props, UP, 0.01);
  props.cast = (from, way, hit) => {
    rays.push(...[0, 1, 2].map((n) => from[n]), ...[0, 1, 2].map((n) => way[n]));
    return cast(from, way, hit);
  };
  props.closest = (x, y, z, hit, within, only) => {
    places.push(x, y, z);
    return closest(x, y, z, hit, within, only);
  };
  const test = () => lines.filter((line) => obstacles.meets(line, 0, line.length / 3)).length;
  test();
  props.cast = cast;
  props.closest = closest;
  const hit = createHit();
  const alone = () => {
    const [from, way] = [new Float64Array(3), new Float64Array(3)];
    for (let i = 0; i < rays.length; i += 6) {
      for (let n = 0; n < 3; n++) {
        from[n] = rays[i + n];
        way[n] = rays[i + 3 + n];
      }
      cast(from, way, hit);
    }
    for (let i = 0; i < places.length; i += 3) closest(places[i], places[i + 1], places[i + 2], hit, 0.0097);
  };
  const [tested, bare] = fastestPair(test, alone, 12);
  return [tested, bare, rays.length / 6 + places.length / 3];
}
