import type { BendProfile, DisplayUnit } from '@kelp/core';
import { memo } from 'react';
import { lengthText } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import type { Axis } from './axis.js';
import { inShares } from './shares.js';

interface BendRowProps {
  /** One a piece. */
  bends: readonly BendProfile[];
  axis: Axis;
  right: number;
  height: number;
  display: DisplayUnit;
}

/** Bend radius along the length on a logarithmic scale, with the smallest allowed; broken stretches are shaded. */
export const BendRow = memo(function BendRow({ bends, axis, right, height, display }: BendRowProps) {
  const { left, width } = axis;
  const least = bends.flatMap((one) => [...one.least]).reduce((most, value) => Math.max(most, value), 0) || 1e-3;
  // from a quarter of the limit to thirty times it: what is straighter than that is straight
  const [low, high] = [Math.log(least / 4), Math.log(least * 30)];
  const y = (radius: number) =>
    4 + (height - 10) * (1 - (Math.log(Math.min(least * 30, Math.max(least / 4, radius))) - low) / (high - low));
  const tightest = bends.reduce((best, { radius }) => radius.reduce((least, r) => Math.min(least, r), best), Infinity);
  const words = Number.isFinite(tightest)
    ? `tightest ${lengthText(tightest, display)}, limit ${lengthText(least, display)}`
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
      <svg aria-hidden="true" x={left} width={width} height={height} viewBox={`${left} 0 ${width} ${height}`}>
        {bends.map((profile, i) => {
          const shares = inShares(profile.along);
          const line = [...shares.keys()]
            .map(
              (p) =>
                `${p === 0 || shares[p] < shares[p - 1] ? 'M' : 'L'}${axis.x(shares[p]).toFixed(1)} ${y(profile.radius[p]).toFixed(1)}`,
            )
            .join('');
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: profiles have no other name
            <g key={i}>
              {broken(profile, shares).map(([from, to]) => (
                <rect
                  key={`${from} ${to}`}
                  x={axis.x(from) - 2}
                  width={axis.x(to) - axis.x(from) + 4}
                  height={height - 4}
                  fill={COLOURS.strawLight}
                  opacity={0.25}
                />
              ))}
              <path d={line} fill="none" stroke={COLOURS.tide} strokeWidth={1.5} />
            </g>
          );
        })}
        <line x1={left} x2={left + width} y1={y(least)} y2={y(least)} stroke={COLOURS.coral} strokeDasharray="3 3" />
      </svg>
    </svg>
  );
});

/** Stretches that bend tighter than allowed, from and to in shares. */
function broken({ radius, least }: BendProfile, shares: Float32Array): [number, number][] {
  const out: [number, number][] = [];
  let from = -1;
  for (let p = 0; p <= shares.length; p++) {
    const bad = p < shares.length && radius[p] < least[p];
    // the next curve begins at 0 again
    const ends = from >= 0 && (!bad || shares[p] < shares[p - 1]);
    if (ends) {
      out.push([shares[from], shares[p - 1]]);
      from = -1;
    }
    if (bad && from < 0) from = p;
  }
  return out;
}
