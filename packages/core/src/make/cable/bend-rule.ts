/**
 * Diameters that the inside of a bend of fixed wiring has at least, by the cable's overall diameter in metres (IET On-Site
 * Guide to BS 7671, table of minimum internal bending radii, from memory).
 */
const FIXED = [
  { upTo: 0.01, diameters: 3 },
  { upTo: 0.025, diameters: 4 },
  { upTo: Infinity, diameters: 6 },
] as const;
const ARMOURED = 6;

/** The least bend of a cable, in radii of it and along its middle, by the rule it goes by. */
export function leastBendBy(rule: string, leastBend: number, diameter: number): number {
  if (rule === 'own') return leastBend;
  const diameters = rule === 'armoured' ? ARMOURED : FIXED.find(({ upTo }) => diameter <= upTo * (1 + 1e-9))!.diameters;
  // from the inside of the bend to the middle it is one radius more
  return 2 * diameters + 1;
}
