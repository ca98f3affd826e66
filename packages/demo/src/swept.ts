import { type DrawnPoint, newShape, newUse } from '@kelp/core';
import { type Farm, free } from './farm.js';
import { GATE, HOUSE, PIER, RAFT, WINCH } from './props/places.js';

// What is swept with more than a cable needs: pipes, springs, rails.

/** A hand rail of a drawn profile along the upper edge of the stair's rail, from the pier down to the water. */
export function handRail(farm: Farm): void {
  const [wide, high] = [0.03, 0.019];
  const at = (x: number, y: number, corner: boolean) => ({ x: x * wide, y: y * high, corner });
  // flat below with a groove on each side, a soft top that fills the hand
  const left = [
    at(-0.62, -1, true),
    at(-0.62, -0.45, true),
    at(-0.86, -0.2, false),
    at(-1, 0.25, false),
    at(-0.72, 0.82, false),
  ];
  const right = left.toReversed().map((point) => ({ ...point, x: -point.x }));
  farm.document.profiles.push({
    id: 'rail-profile',
    name: 'Hand rail',
    paths: [{ closed: true, points: [...right.toReversed(), at(0, 1, false), ...left.toReversed()] }],
  });
  const path = newUse('path', 'edges');
  Object.assign(path.parameters, { prop: 'stair-rail', angle: 1.05, chosen: 1, lift: 0.033 });
  farm.along(
    'Hand rail',
    path,
    [newShape('trim', { by: 'length', offStart: 0.05, offEnd: 0.05 }), newShape('smooth', { over: 2.5 })],
    {},
    { colour: '#8a5a36', roughness: 0.5 },
  );
  const make = newUse('make', 'sweep', 'oval-rail');
  Object.assign(make.parameters, {
    form: 'own',
    profile: 'rail-profile',
    radius: high,
    width: wide / high,
    facing: 'up',
    // round where a hand takes hold of its ends
    becomes: 'round',
    share: {
      ease: 'smooth',
      knots: [
        { at: 0, value: 1 },
        { at: 0.1, value: 0 },
        { at: 0.9, value: 0 },
        { at: 1, value: 1 },
      ],
    },
  });
  farm.document.pieces[farm.document.pieces.length - 1].make = make;
}

/** Along the deck, up the side of the winch house and round its corner: nominal pipe with elbows, flanges and brackets. */
export function waterPipe(farm: Farm): void {
  const [side, front] = [HOUSE.right + 0.1, HOUSE.front + 0.11];
  const [low, high] = [PIER.deck + 0.1, PIER.deck + 1.5];
  const make = newUse('make', 'pipe', 'flanged-pipe');
  Object.assign(make.parameters, { size: 'dn40', stock: 1, brackets: 0.9, reach: 6 });
  farm.made(
    'Water pipe',
    [
      free(-1.1, low, -0.68),
      free(side, low, -0.68),
      free(side, high, -0.68),
      free(side, high, front),
      free(HOUSE.left + 0.35, high, front),
    ],
    [],
    make,
    { colour: '#3b6b4f', roughness: 0.4 },
  );
}

/** Radius of the spring and of its wire, metres. */
const [SPRING, WIRE] = [0.042, 0.005];

/** Round the free end of the winch's shaft, between its cheek and a washer. */
export function shaftSpring(farm: Farm): void {
  const make = newUse('make', 'coil', 'spring');
  Object.assign(make.parameters, { radius: SPRING, wire: WIRE / SPRING, pitch: 1.9 });
  farm.made(
    'Shaft spring',
    [
      free(WINCH.cheek + WIRE, WINCH.center[1], WINCH.center[2]),
      free(WINCH.washer - WIRE, WINCH.center[1], WINCH.center[2]),
    ],
    [],
    make,
    { colour: '#c9a227', roughness: 0.4, metalness: 0.6 },
  );
}

/** From the top of one gate post to that of the other. */
export function gateArch(farm: Farm): void {
  const make = newUse('make', 'bridge', 'arch');
  Object.assign(make.parameters, { fullness: 1.15, middle: 0.7, rings: 48 });
  const tops = GATE.feet.map(([x, y, z]) => farm.near('gate-posts', [x, y + GATE.height + 0.01, z]));
  farm.made('Gate arch', tops, [], make, { colour: '#b5543c', roughness: 0.5 });
}

/** Harvested blades on the raft: wavy outlines, their rims rising and falling. */
export function kelpBlades(farm: Farm): void {
  const make = newUse('make', 'fill', 'blade');
  Object.assign(make.parameters, { radius: 0.0025, crown: 0.1, across: 24 });
  const blade = (x: number, z: number, turn: number, long: number): DrawnPoint[] => {
    const steps = 26;
    return Array.from({ length: steps }, (_, k) => {
      const angle = (2 * Math.PI * k) / steps;
      // broad at a third of its length, drawn out to a tip
      const along = (long / 2) * Math.cos(angle);
      const wide = 0.075 * Math.sin(angle) * (1 - 0.35 * Math.cos(angle)) * (1 + 0.12 * Math.sin(9 * angle));
      const high = RAFT.deck + 0.022 + 0.009 * Math.sin(7 * angle + turn);
      return free(
        x + along * Math.cos(turn) - wide * Math.sin(turn),
        high,
        z + along * Math.sin(turn) + wide * Math.cos(turn),
      );
    });
  };
  farm.many(
    'Kelp blades',
    [blade(2.92, 0.36, 0.2, 0.74), blade(2.86, 0.64, -0.12, 0.66), blade(2.72, 0.95, 0.3, 0.54)],
    true,
    make,
    { colour: '#6d7a2f', roughness: 0.45 },
  );
}

/** Eelgrass that grows up to the water beside the raft. */
export function eelgrass(farm: Farm): void {
  const make = newUse('make', 'ribbon', 'eelgrass');
  Object.assign(make.parameters, { radius: 0.009, cuts: 40, seed: 4 });
  const lines = Array.from({ length: 26 }, (_, k): DrawnPoint[] => {
    // spread like seeds in a flower: even, and never in rows
    const [angle, far] = [2.39996 * k, 0.06 * Math.sqrt(k)];
    const [x, z] = [1.85 + far * Math.cos(angle), 1.55 + far * Math.sin(angle)];
    const high = 0.62 + 0.25 * Math.sin(1.7 * k);
    return [0, 0.35, 0.7, 1].map((t) => free(x + 0.16 * t * t, -0.5 + high * t, z + 0.05 * Math.sin(3 * t)));
  });
  farm.many('Eelgrass', lines, false, make, { colour: '#4f8a3c', roughness: 0.5 });
}
