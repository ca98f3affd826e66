import { newUse } from '@kelp/core';
import { type Farm, free } from './farm.js';
import { GATE, HOUSE, PIER, WINCH } from './props/places.js';

// What is swept with more than a cable needs: pipes, springs, rails.

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
