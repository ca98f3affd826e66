/**
 * What a computation asked of the props: the box of space in which an answer could have been another, and the props it
 * named. Whatever moves elsewhere leaves the result as it is.
 */
export interface Reads {
  /** Least xyz, greatest xyz; empty (least above greatest) where no question was asked of a place. */
  box: Float64Array;
  /** Props asked by name. */
  named: Set<string>;
  /** Asked whether there is any prop, or just one. */
  count: boolean;
}

export const noReads = (): Reads => ({
  box: Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity),
  named: new Set(),
  count: false,
});

/** Takes a ball into the box. */
export function readBall({ box }: Reads, x: number, y: number, z: number, radius: number): void {
  if (x - radius < box[0]) box[0] = x - radius;
  if (y - radius < box[1]) box[1] = y - radius;
  if (z - radius < box[2]) box[2] = z - radius;
  if (x + radius > box[3]) box[3] = x + radius;
  if (y + radius > box[4]) box[4] = y + radius;
  if (z + radius > box[5]) box[5] = z + radius;
}
