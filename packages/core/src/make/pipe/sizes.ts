/** A pipe as it is sold. Metres. */
export interface PipeSize {
  value: string;
  /** By inches, as the trade names it, and as a diameter nominal. */
  label: string;
  /** Outside diameter. */
  outside: number;
  wall: number;
  /** Long-radius elbow of 90°, centre to end: the radius of its middle line. */
  elbow: number;
}

const inches = (value: string, label: string, [outside, wall, elbow]: readonly [number, number, number]): PipeSize => ({
  value,
  label,
  outside: outside / 1000,
  wall: wall / 1000,
  elbow: elbow / 1000,
});

/**
 * Outside diameters and walls of schedule 40 (ASME B36.10M), long-radius elbows (ASME B16.9); the digits are from memory
 * of both tables.
 */
export const PIPE_SIZES: readonly PipeSize[] = [
  inches('dn15', '½ in (DN 15)', [21.3, 2.77, 38]),
  inches('dn20', '¾ in (DN 20)', [26.7, 2.87, 38]),
  inches('dn25', '1 in (DN 25)', [33.4, 3.38, 38]),
  inches('dn32', '1¼ in (DN 32)', [42.2, 3.56, 48]),
  inches('dn40', '1½ in (DN 40)', [48.3, 3.68, 57]),
  inches('dn50', '2 in (DN 50)', [60.3, 3.91, 76]),
  inches('dn65', '2½ in (DN 65)', [73.0, 5.16, 95]),
  inches('dn80', '3 in (DN 80)', [88.9, 5.49, 114]),
  inches('dn100', '4 in (DN 100)', [114.3, 6.02, 152]),
  inches('dn125', '5 in (DN 125)', [141.3, 6.55, 190]),
  inches('dn150', '6 in (DN 150)', [168.3, 7.11, 229]),
  inches('dn200', '8 in (DN 200)', [219.1, 8.18, 305]),
  inches('dn250', '10 in (DN 250)', [273.0, 9.27, 381]),
  inches('dn300', '12 in (DN 300)', [323.8, 10.31, 457]),
];

export const pipeSize = (value: string): PipeSize | undefined => PIPE_SIZES.find((size) => size.value === value);
