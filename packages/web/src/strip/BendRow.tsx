import type { BendProfile, DisplayUnit } from '@kelp/core';
import { lengthText } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';

interface BendRowProps {
  bends: BendProfile;
  length: number;
  left: number;
  width: number;
  right: number;
  height: number;
  display: DisplayUnit;
}

/** Bend radius along the length on a logarithmic scale, with the smallest allowed; broken stretches are shaded. */
export function BendRow({ bends, length, left, width, right, height, display }: BendRowProps) {
  const least = bends.least.reduce((most, value) => Math.max(most, value), 0) || 1e-3;
  // from a quarter of the limit to thirty times it: what is straighter than that is straight
  const [low, high] = [Math.log(least / 4), Math.log(least * 30)];
  const y = (radius: number) =>
    4 + (height - 10) * (1 - (Math.log(Math.min(least * 30, Math.max(least / 4, radius))) - low) / (high - low));
  const x = (along: number) => left + (width * along) / length;
  const points = [...bends.along.keys()];
  const line = points
    .map(
      (p, i) =>
        `${i === 0 || bends.along[p] < bends.along[p - 1] ? 'M' : 'L'}${x(bends.along[p]).toFixed(1)} ${y(bends.radius[p]).toFixed(1)}`,
    )
    .join('');
  const tightest = bends.radius.reduce((best, radius) => Math.min(best, radius), Infinity);
  const words = Number.isFinite(tightest)
    ? `tightest ${lengthText(tightest, display)}, allowed ${lengthText(least, display)}`
    : 'straight';
  return (
    <svg
      width={left + width + right}
      height={height}
      role="img"
      aria-label={`Bend radius along the length: ${words}`}
      style={{ display: 'block', font: `12px inherit` }}
    >
      <text x={12} y={height / 2 - 1} fill={COLOURS.inkSecond} fontSize={12}>
        Bend radius
      </text>
      <text x={12} y={height / 2 + 13} fill={COLOURS.inkSecond} fontSize={11} fontFamily={NUMBER_FONT}>
        {Number.isFinite(tightest) ? `≥ ${lengthText(tightest, display)}` : 'straight'}
      </text>
      {broken(bends).map(([from, to]) => (
        <rect
          key={from}
          x={x(from) - 2}
          width={x(to) - x(from) + 4}
          height={height - 4}
          fill={COLOURS.strawLight}
          opacity={0.25}
        />
      ))}
      <line x1={left} x2={left + width} y1={y(least)} y2={y(least)} stroke={COLOURS.coral} strokeDasharray="3 3" />
      <path d={line} fill="none" stroke={COLOURS.tide} strokeWidth={1.5} />
    </svg>
  );
}

/** Stretches that bend tighter than allowed, from and to in metres. */
function broken({ along, radius, least }: BendProfile): [number, number][] {
  const out: [number, number][] = [];
  let from = -1;
  for (let p = 0; p <= along.length; p++) {
    const bad = p < along.length && radius[p] < least[p];
    if (bad && from < 0) from = p;
    if (!bad && from >= 0) {
      out.push([along[from], along[p - 1]]);
      from = -1;
    }
  }
  return out;
}
