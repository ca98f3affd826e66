import { srgbChannel } from '../../numeric/colour.js';
import { PATTERN_HEIGHT, type PatternKind } from './heights.js';

/** A pattern as a material wears it. */
export interface Pattern {
  kind: PatternKind;
  /** How high it is, as a share of the length of a tile. */
  relief: number;
  /** How much darker its grooves are, 0 … 1. */
  tone: number;
}

/** Pictures of one tile of a pattern, rows of rgb from v = 0 on, that repeat without a seam. */
export interface PatternTile {
  /** Pixels each way. */
  size: number;
  /** Normal map as glTF 2.0 has it (3.9.3): red to +u, green against +v, since v grows downwards, blue outwards. */
  normal: Uint8Array;
  /** sRGB, to be multiplied with the colour; none where grooves are no darker. */
  tone?: Uint8Array;
}

export const TILE = 256;

/** Draws one tile. Its slopes are differences over the pixels to both sides, round the edges of the tile. */
export function patternTile({ kind, relief, tone }: Pattern, size = TILE): PatternTile {
  const heights = heightsOf(kind, size);
  const normal = new Uint8Array(3 * size * size);
  const at = (i: number, j: number) => heights[((j + size) % size) * size + ((i + size) % size)];
  const slope = (relief * size) / 2;
  for (let j = 0; j < size; j++)
    for (let i = 0; i < size; i++) {
      const x = -slope * (at(i + 1, j) - at(i - 1, j));
      const y = slope * (at(i, j + 1) - at(i, j - 1));
      const by = 127.5 / Math.sqrt(x * x + y * y + 1);
      const n = 3 * (j * size + i);
      normal[n] = Math.round(127.5 + by * x);
      normal[n + 1] = Math.round(127.5 + by * y);
      normal[n + 2] = Math.round(127.5 + by);
    }
  if (tone === 0) return { size, normal };
  const grey = new Uint8Array(3 * size * size);
  heights.forEach((height, k) => {
    grey.fill(Math.round(255 * srgbChannel(1 - tone * (1 - height))), 3 * k, 3 * k + 3);
  });
  return { size, normal, tone: grey };
}

/** Heights do not hang on relief and tone: while these are dragged they are drawn once. */
const drawn = new Map<string, Float32Array>();

function heightsOf(kind: PatternKind, size: number): Float32Array {
  const key = `${kind} ${size}`;
  let heights = drawn.get(key);
  if (!heights) {
    const height = PATTERN_HEIGHT[kind];
    heights = Float32Array.from({ length: size * size }, (_, k) =>
      height(((k % size) + 0.5) / size, (Math.floor(k / size) + 0.5) / size),
    );
    drawn.set(key, heights);
  }
  return heights;
}
