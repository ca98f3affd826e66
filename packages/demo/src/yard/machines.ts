import { newUse, type ParameterValues, type UnitUse, type WheelPick } from '@kelp/core';
import type { Farm } from '../farm.js';
import { CONVEYOR, SLEDGE, WINCH } from './things.js';

// What runs in the yard: the winch's belt, the sledge's tracks, the conveyor.

type Place = readonly [number, number, number];

function belt(
  farm: Farm,
  name: string,
  wheels: readonly Omit<WheelPick, 'id'>[],
  path: ParameterValues,
  preset: string,
  make: ParameterValues,
  dress: ParameterValues,
): Record<string, unknown> {
  const use = newUse('path', 'wheels');
  Object.assign(use.parameters, { wheels: wheels.map((wheel, k) => ({ id: `${k + 1}`, ...wheel })), ...path });
  farm.along(name, use, [], {}, dress);
  const piece = farm.document.pieces[farm.document.pieces.length - 1];
  piece.make = newUse('make', 'belt', preset);
  Object.assign(piece.make.parameters, make);
  return piece.dress;
}

const wear = (preset: string, parameters: ParameterValues = {}): UnitUse => {
  const use = newUse('dress', 'plain', preset);
  Object.assign(use.parameters, parameters);
  return use;
};
/** Canvas in rubber: a repeat goes into the belt a whole number of times. */
const rubber = {
  pattern: 'weave',
  colour: '#39403d',
  roughness: 0.75,
  repeat: 0.06,
  around: 8,
  relief: 0.06,
  tone: 0.45,
};

/** From the motor to the drum: a toothed belt, kept tight by a roller from outside. All close in 21 of its teeth. */
export function winchBelt(farm: Farm): void {
  const front = ([x, y, z]: Place): Place => [x, y, z + WINCH.front];
  const pitch = 0.02;
  const radius = (teeth: number) => (teeth * pitch) / (2 * Math.PI) - 0.0075;
  const dress = belt(farm, 'Winch belt', [
    { position: front(WINCH.drum), radius: radius(105) },
    { position: front(WINCH.motor), radius: radius(35), takesUp: true },
    { position: front(WINCH.idler), radius: radius(21), outside: true },
  ], { pitch }, 'toothed-belt', { width: 0.075, thickness: 0.01, pitch, wheel: 'spokes', spokes: 5, run: 21, flange: 1.6, sides: 80 }, rubber);
  const wheels = newUse('dress', 'patterned', 'brushed-steel');
  Object.assign(wheels.parameters, { colour: '#9aa4a5' });
  dress['wheels'] = wheels;
} // biome-ignore format: a table of numbers

/** Left and right, mirrored in all but their place. */
export function sledgeTracks(farm: Farm): void {
  const [x, y, z] = SLEDGE.at;
  for (const [name, side] of [['Track', 1], ['Far track', -1]] as const) {
    const at = (dx: number, dy: number): Place => [x + dx, y + dy, z + side * SLEDGE.aside];
    const dress = belt(farm, name, [
      { position: at(-0.66, -0.11) },
      { position: at(-0.33, -0.2), radius: 0.12 },
      { position: at(0, -0.2), radius: 0.12 },
      { position: at(0.33, -0.2), radius: 0.12 },
      { position: at(0.66, -0.11) },
      { position: at(0, 0.005), radius: 0.05 },
    ], { radius: 0.15 }, 'track', { width: 0.26, thickness: 0.02, pitch: 0.085, run: 4, wheel: 'disc', face: 0.6, rim: 0.2 }, { colour: '#5b6464', roughness: 0.5, metalness: 0.7 });
    dress['wheels'] = wear('green-paint', { colour: '#c9962f' });
  }
} // biome-ignore format: a table of numbers

/** Slats up to the raft with crates on them, one after the other. */
export function conveyor(farm: Farm): void {
  const { low, high, width } = CONVEYOR;
  const [radius, roller] = [0.13, 0.05];
  const [x, y] = [high[0] - low[0], high[1] - low[1]];
  const far = Math.hypot(x, y);
  /** Under the upper run, just touched by it. */
  const under = (share: number): Place => [low[0] + share * x - ((radius - roller) * y) / far, low[1] + share * y + ((radius - roller) * x) / far, low[2]];
  const dress = belt(farm, 'Conveyor', [
    { position: low },
    { position: high },
    { position: under(0.66), radius: roller },
    { position: under(0.33), radius: roller },
  ], { radius }, 'slat-conveyor', { width, thickness: 0.03, pitch: 0.075, run: 1, panel: 'inside', plate: 0.5, gap: 0.012, face: 0.9, riders: 'some', parts: [{ part: 'prop-1', times: 1, size: 1 }], props: ['crate'], apart: 0.7, carried: true }, rubber);
  dress['slats'] = wear('timber');
  dress['panel'] = wear('green-paint');
  dress['riders'] = wear('timber', { colour: '#c7a26a' });
} // biome-ignore format: a table of numbers
