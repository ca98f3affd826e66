import { rollerReach } from '../chain/rollers.js';
import type { BeltChoice } from './belt.js';
import { BAND, chainOf, rollerOf, SLAT, toothDeep } from './links.js';

/** Half the thickness of its band, or of what represents it. */
export function halfOf({ kind, thickness, pitch }: BeltChoice): number {
  if (kind === 'roller') return rollerOf(pitch);
  return bandOf({ kind, thickness }) / 2;
}

/** The band's own thickness. */
export const bandOf = ({ kind, thickness }: Pick<BeltChoice, 'kind' | 'thickness'>): number =>
  kind === 'toothed' ? BAND * thickness : kind === 'slats' ? (1 - SLAT) * thickness : thickness;

/** All its breadth: a chain's plates and pins stand beside its rollers. */
export const broadOf = (p: BeltChoice): number =>
  p.kind === 'roller' ? 2 * rollerOf(p.pitch) * rollerReach(chainOf(p)).x : p.width;

/** How far what runs reaches inwards from its line, and outwards. */
export function reachOf(p: BeltChoice): { below: number; over: number } {
  const half = halfOf(p);
  if (p.kind === 'roller') {
    const plates = rollerReach(chainOf(p)).y * half;
    return { below: plates, over: plates };
  }
  if (p.kind === 'toothed') return { below: half + toothDeep(p), over: half };
  return p.kind === 'slats'
    ? { below: half, over: half + SLAT * p.thickness }
    : { below: half, over: p.kind === 'shoes' ? 1.1 * p.thickness : half };
}
