import { curveCount } from '../../curve/curve-set.js';
import { SegmentGrid } from '../../curve/segment-grid.js';
import { pointOf } from '../../numeric/vector.js';
import type { Finding } from '../../unit/finding.js';
import { axisAlong, type PlaceChoice, type Placing } from './placing.js';

/** What lap by less than such a share of their size touch. */
const LAP = 0.08;
/** This many are looked at. */
const MAX_COMPARED = 100_000;

/** Elements that lap over their neighbours: from one to the next along a line, or where each line has one, beside each other. */
export function lapsOf({ framed, stations, shown, parts, which, scale }: Placing, p: PlaceChoice): Finding | undefined {
  const axis = axisAlong(p);
  const half = (n: number, k: number) => parts[which[n]].reach[k] * scale[n];
  const compared = shown.subarray(0, MAX_COMPARED);
  const worst = { count: 0, at: -1, apart: 0, needed: 0 };
  const tell = (n: number, apart: number, needed: number) => {
    if (apart >= (1 - LAP) * needed) return;
    worst.count++;
    if (worst.at < 0 || apart - needed < worst.apart - worst.needed) Object.assign(worst, { at: n, apart, needed });
  };
  const single = compared.length <= curveCount(framed.lines);
  const alike = parts.length === 1 && compared.length > 0 && scale.every((one) => one === scale[0]);
  const own = alike ? 2 * half(compared[0], axis) : 0;
  if (!single)
    for (let k = 1; k < compared.length; k++) {
      const a = compared[k - 1];
      const b = compared[k];
      if (own > 0 && stations.along[b] - stations.along[a] >= own) continue;
      if (stations.curve[a] === stations.curve[b])
        tell(b, stations.along[b] - stations.along[a], own || half(a, axis) + half(b, axis));
    }
  else {
    const broad = (n: number) =>
      Math.max(...[0, 1, 2].filter((k) => k !== (axis === 1 ? 1 : axis)).map((k) => half(n, k)));
    const middle = Float64Array.from(
      { length: 3 * compared.length },
      (_, i) => stations.at[3 * compared[Math.floor(i / 3)] + (i % 3)],
    );
    const reach = compared.reduce((far, n) => Math.max(far, broad(n)), 0);
    const grid = new SegmentGrid(middle, 2 * reach || 1);
    for (let k = 0; k < compared.length; k++) {
      const [x, y, z] = pointOf(middle, k);
      grid.near(k, x, y, z, (other) => {
        if (other < k) return;
        const apart = Math.hypot(x - middle[3 * other], y - middle[3 * other + 1], z - middle[3 * other + 2]);
        tell(compared[k], apart, broad(compared[k]) + broad(compared[other]));
      });
    }
  }
  if (worst.count === 0) return undefined;
  return {
    code: 'elements-lap',
    severity: single ? 'note' : 'warning',
    message: `${worst.count.toLocaleString('en')} parts overlap their neighbours: spacing {value} (limit {limit}). Increase the spacing, or reduce the size.`,
    place: pointOf(stations.at, worst.at),
    along: single ? undefined : stations.along[worst.at],
    size: { value: worst.apart, limit: worst.needed, kind: 'length' },
    fix:
      !single && p.by === 'spacing'
        ? { label: 'Increase the spacing', kind: 'set', stage: 'make', parameter: 'spacing', value: worst.needed }
        : undefined,
  };
}
