import type { Vec } from './solid-builder.js';

/** Heights and places of the farm's first corner, metres; water at y = 0. */
export const PIER = { left: -4.2, right: 1.2, front: 1.15, back: -1.15, deck: 0.95 } as const;
export const RAFT = { left: 2.3, right: 5.1, front: 1.35, back: -1.05, deck: 0.5 } as const;
/** Radius of a bollard where a line is wound round it. */
export const BOLLARD = { waist: 0.095 } as const;
export const PIER_BOLLARDS: readonly Vec[] = [
  [-1.5, PIER.deck, 0.72],
  [0.78, PIER.deck, 0.72],
];
export const RAFT_CLEAT: Vec = [3.2, RAFT.deck, RAFT.front - 0.14];
export const LAMP_POSTS: readonly Vec[] = [
  [-1.75, PIER.deck, -0.95],
  [0.95, PIER.deck, -0.95],
];
/** Height of the lamp arm's tip over the deck, and how far it reaches over it. */
export const LAMP_ARM = { height: 2.05, reach: 0.34 } as const;
export const HOUSE = { left: -3.95, right: -2.35, front: -0.05, back: -1.05, eaves: 1.75 } as const;
/** Down from the pier's front: between x `left` and `right`, `treads` steps of `rise` and `run`, the rail so high above. */
export const STAIR = { left: -3.95, right: -3.2, rise: 0.19, run: 0.21, treads: 5, rail: 0.86 } as const;
export const CRATE = { center: [4.25, RAFT.deck + 0.24, -0.25] as Vec, size: [0.9, 0.46, 0.62] as Vec } as const;
/** Middle of the drum; where the outer face of the right cheek and the inner face of the washer on the shaft stand. */
export const WINCH = { center: [-2.0, PIER.deck + 0.25, -0.2] as Vec, cheek: -1.795, washer: -1.64 } as const;
/** Two posts at the pier's end, over which an arch is led: their feet, radius and height. */
export const GATE = {
  feet: [
    [1.07, PIER.deck, -0.74],
    [1.07, PIER.deck, -0.06],
  ] as readonly Vec[],
  radius: 0.05,
  height: 1.15,
} as const;
/** On the raft's front edge: the middle of the roller, which is so high over the deck; where the chain's lock is. */
export const BOW_ROLLER = {
  at: [2.75, RAFT.deck + 0.075, RAFT.front + 0.02] as Vec,
  high: 0.075,
  radius: 0.045,
  lock: RAFT.front - 0.62,
} as const;
