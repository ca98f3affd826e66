/** Right-handed axes of the world as a choice: the third vector of a frame is the chosen direction. */
export type Axis = 'up' | 'x' | 'z';

export const AXES = [
  { value: 'up', label: 'Up' },
  { value: 'x', label: 'Along x' },
  { value: 'z', label: 'Along z' },
] as const;

type Vector = readonly [number, number, number];

/** Two unit vectors across the axis and the axis itself; for `up` they are x and −z, so that a plan keeps its hand. */
export function axisFrame(axis: string): readonly [Vector, Vector, Vector] {
  if (axis === 'x')
    return [
      [0, 1, 0],
      [0, 0, 1],
      [1, 0, 0],
    ];
  if (axis === 'z')
    return [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ];
  return [
    [1, 0, 0],
    [0, 0, -1],
    [0, 1, 0],
  ];
}
