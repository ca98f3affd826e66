import type { StrandLight } from '../../unit/carriers.js';

// Light along a strand: the longitudinal terms of Marschner, Jensen, Cammarano, Worley, Hanrahan: Light scattering from
// human hair fibers, SIGGRAPH 2003. The view draws with the same lobes.

/** The ways light takes: off the surface, through it, and in, off the far wall and out again. */
export interface Lobe {
  /** By how much its scales tilt it, radians. */
  shift: number;
  /** Its width, radians. */
  spread: number;
}

/** Of the three ways R, TT, TRT: α, −α/2, −3α/2 and β, β/2, 2β (table 1 of the paper). */
export const lobesOf = ({ shift, spread }: Pick<StrandLight, 'shift' | 'spread'>): readonly [Lobe, Lobe, Lobe] => [
  { shift: -shift, spread },
  { shift: shift / 2, spread: spread / 2 },
  { shift: (3 * shift) / 2, spread: 2 * spread },
];

/**
 * How much of the light that comes in at `thetaIn` goes out at `thetaOut`, both radians from square to the strand towards
 * its tip: a normal distribution of the half angle about the lobe's shift. Over all half angles it sums to 1.
 */
export function along({ shift, spread }: Lobe, thetaIn: number, thetaOut: number): number {
  const x = (thetaIn + thetaOut) / 2 - shift;
  return Math.exp(-(x * x) / (2 * spread * spread)) / (spread * Math.sqrt(2 * Math.PI));
}

/**
 * What of the light falling on a strand goes out over the whole sphere: each lobe's distribution over the outgoing angle,
 * by cos² of the half difference as the paper has it. At most `shine`, `through` and their rest each once.
 */
export function energyOf(light: StrandLight, thetaIn: number, steps = 2000): number {
  const [r, tt, trt] = lobesOf(light);
  let sum = 0;
  for (let k = 0; k < steps; k++) {
    const thetaOut = -Math.PI / 2 + (Math.PI * (k + 0.5)) / steps;
    // dω along the strand is cos θ dθ; the projected fibre brings cos θ more, and 1/cos² θd is the paper's own
    const half = (thetaIn - thetaOut) / 2;
    const share = (Math.cos(thetaOut) ** 2 / Math.cos(half) ** 2) * 0.5;
    sum +=
      share *
      (strengths(light)[0] * along(r, thetaIn, thetaOut) +
        strengths(light)[1] * along(tt, thetaIn, thetaOut) +
        strengths(light)[2] * along(trt, thetaIn, thetaOut)) *
      (Math.PI / steps);
  }
  return sum;
}

/** Shares of the three ways; they come to 1 at most. */
export const strengths = ({ shine, through }: StrandLight): readonly [number, number, number] => {
  const off = 0.5 * shine;
  const passing = (1 - off) * 0.6 * through;
  return [off, passing, (1 - off - passing) * 0.5 * shine];
};
