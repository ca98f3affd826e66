import { bendRadii, catmullRom, createHit, type DisplayUnit, type DrawnPoint, type Surroundings } from '@kelp/core';
import type { PieceBuild } from '../evaluation/protocol.js';
import { lengthText } from '../fields/units.js';

/** Neighbours beyond this many points are not looked through while the hand moves. */
const MAX_POINTS = 60_000;

const hit = createHit();

export const lengthOf = (line: readonly { position: readonly number[] }[]): number =>
  line.reduce((sum, { position }, i) => {
    if (i === 0) return 0;
    return sum + Math.hypot(...position.map((value, k) => value - line[i - 1].position[k]));
  }, 0);

/** The words at the pointer while a line is drawn: length, height, tightest bend, nearest other line, thickness. */
export function readoutOf(
  line: readonly DrawnPoint[],
  thickness: number,
  surroundings: Surroundings,
  builds: Iterable<PieceBuild>,
  display: DisplayUnit,
): string[] {
  const words = [lengthText(lengthOf(line), display)];
  const last = line[line.length - 1];
  if (last && !last.anchor && surroundings.closest(...last.position, hit))
    words.push(`${lengthText(hit.distance, display)} from the surface`);
  const bend = smallestBend(line);
  if (bend < Infinity) words.push(`bend ${lengthText(bend, display)}`);
  const nearest = last ? nearestLine(last.position, builds) : Infinity;
  if (nearest < Infinity) words.push(`next line ${lengthText(nearest, display)}`);
  if (Math.abs(thickness - 1) > 1e-3) words.push(`thickness × ${thickness.toFixed(2)}`);
  return words;
}

function smallestBend(line: readonly DrawnPoint[]): number {
  if (line.length < 3) return Infinity;
  const curve = catmullRom({
    position: Float64Array.from(line.flatMap(({ position }) => position)),
    corner: new Uint8Array(line.length),
    radius: new Float32Array(line.length).fill(1),
    closed: false,
    id: 0,
  });
  const smallest = bendRadii(curve, lengthOf(line) / 60).reduce((a, b) => Math.min(a, b), Infinity);
  return smallest < 50 * lengthOf(line) ? smallest : Infinity;
}

function nearestLine([x, y, z]: readonly [number, number, number], builds: Iterable<PieceBuild>): number {
  let nearest = Infinity;
  let looked = 0;
  for (const { guide } of builds) {
    const { position } = guide;
    looked += position.length / 3;
    if (looked > MAX_POINTS) break;
    for (let i = 0; i < position.length; i += 3)
      nearest = Math.min(nearest, Math.hypot(position[i] - x, position[i + 1] - y, position[i + 2] - z));
  }
  return nearest;
}
