/** The studio's two lights: where from, seen from the middle of the scene in its reach, and how bright. */
export const KEY_LIGHT = { from: [0.9, 1.5, 0.7], colour: '#fff1dc', intensity: 2.9 } as const;
export const FILL_LIGHT = { from: [-1, 0.6, -1], colour: '#dfeaf2', intensity: 0.25 } as const;
