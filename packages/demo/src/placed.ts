import { evaluatePiece, newUse, Surroundings, World } from '@kelp/core';
import { type Farm, free } from './farm.js';
import { BOW_ROLLER, PIER } from './props/places.js';

// What is placed and what hangs in links.

const lastPiece = (farm: Farm) => farm.document.pieces[farm.document.pieces.length - 1];

/** Small mooring posts along the pier's back edge. */
export function kerbPosts(farm: Farm): void {
  const make = newUse('make', 'place', 'bollards');
  Object.assign(make.parameters, { size: 0.034, spacing: 0.6, sides: 12 });
  const at = (x: number) => farm.on('pier', x, PIER.back + 0.04);
  farm.made('Kerb posts', [at(-2.1), at(-1), at(0.9)], [], make, {
    colour: '#3d4a46',
    roughness: 0.45,
    metalness: 0.6,
  });
}

/** A rope along the pier's front with floats hung from it; one was slid along by hand to clear the ladder's foot. */
export function fenders(farm: Farm): void {
  const high = PIER.deck - 0.1;
  const line = [-2.85, -1.2, 0.45].map((x) => free(x, high, PIER.front + 0.062));
  farm.piece('Fender rope', line, [], { radius: 0.009 }, { colour: '#d8cfba', roughness: 0.9 });
  const make = newUse('make', 'place', 'floats');
  Object.assign(make.parameters, {
    size: 0.058,
    spacing: 0.55,
    first: 0.3,
    last: 0.3,
    facing: 'z',
    upright: true,
    held: 'top',
    rise: 0.28,
    turns: { least: -0.5, most: 0.5 },
    sides: 14,
  });
  farm.made('Fenders', line, [], make, { colour: '#d9772b', roughness: 0.45 });
  const piece = lastPiece(farm);
  const [part] = evaluatePiece(
    new World({ ...farm.document, curves: [...farm.document.curves] }, new Surroundings(new Map())),
    piece,
  ).parts;
  if (part.kind === 'placed') piece.elements = [{ id: part.places.id[3], move: [0.17, 0.015, 0.02], turn: 0.9 }];
}

/** From its lock on the raft's deck over the bow roller down into the water. */
export function anchorChain(farm: Farm): void {
  const make = newUse('make', 'chain', 'anchor-chain');
  const wire = 0.0065;
  Object.assign(make.parameters, { radius: wire, sides: 8 });
  // how far a chain that lies at 45 degrees reaches, in wire radii
  const reach = 2.84 * wire;
  const {
    at: [x, y, z],
    radius,
    lock,
  } = BOW_ROLLER;
  const far = radius + reach;
  const over = [-0.5, -0.05, 0.4, 0.85, 1.3].map((angle) =>
    free(x, y + far * Math.cos(angle), z + far * Math.sin(angle)),
  );
  const lies = y - BOW_ROLLER.high + reach;
  const deck = [lock + 0.1, lock + 0.17, lock + 0.24, z - 0.36].map((at) => free(x, lies, at));
  const down = [y - 0.04, y - 0.2, -0.32].map((at) => free(x, at, z + far + 0.002));
  farm.made(
    'Anchor chain',
    [
      free(x, lies + 0.006, lock),
      ...deck,
      free(x, lies + 0.012, z - 0.27),
      free(x, lies + 0.052, z - 0.16),
      ...over,
      ...down,
    ],
    [],
    make,
    { colour: '#6f7a7a', roughness: 0.5, metalness: 0.8 },
  );
}

/** Barnacles about the waterline of the pier's front piling. */
export function barnacles(farm: Farm): void {
  farm.document.regions.push({
    id: 'waterline',
    name: 'Waterline',
    form: 'box',
    position: [PIER.right - 0.5, 0.06, 0.92],
    size: [0.16, 0.1, 0.16],
    rotation: [0, 0, 0, 1],
    edge: 0.12,
  });
  const path = newUse('path', 'scattered');
  Object.assign(path.parameters, {
    prop: 'pier',
    count: 48,
    evenness: 1,
    from: 1.2,
    to: 1.9,
    region: 'waterline',
    height: 0.01,
  });
  const make = newUse('make', 'place', 'barnacles');
  Object.assign(make.parameters, { size: 0.012, sides: 14 });
  farm.along('Barnacles', path, [], {}, { colour: '#cfc8b4', roughness: 0.95 });
  lastPiece(farm).make = make;
}
