import { ticks } from 'd3-array';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import type { Axis } from './axis.js';
import type { MarkRow, PointMark } from './shares.js';

interface StripAxisProps {
  axis: Axis;
  width: number;
  /** Metres; null where lines of several lengths share the axis. */
  length: number | null;
  /** A share of the length in words. */
  text(share: number): string;
  marks: readonly PointMark[];
  rings: readonly number[];
  /** Elements, joints, clips, lays. */
  rows: readonly MarkRow[];
}

const HEIGHT = 24;
const LINE = 20;
/** Rings nearer to each other than this say nothing, pixels. */
const APART = 3;

/** The length in figures, a tick below for each ring of the section, and the drawn points: corners square, held ones filled. */
export function StripAxis({ axis, width, length, text, marks, rings, rows }: StripAxisProps) {
  const { left, width: wide, span } = axis;
  const whole = length ?? 100;
  const inSpan = (share: number) => share >= span.from && share <= span.to;
  const seen = rings.filter(inSpan);
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={`Length axis, ${text(span.from)} to ${text(span.to)}`}
      style={{ display: 'block', font: `11px ${NUMBER_FONT}` }}
    >
      <line x1={left} x2={left + wide} y1={LINE} y2={LINE} stroke={COLOURS.ink} />
      {seen.length * APART < wide && (
        <path d={seen.map((share) => `M${axis.x(share).toFixed(1)} ${LINE}v4`).join('')} stroke={COLOURS.inkSecond}>
          <title>Section rings</title>
        </path>
      )}
      {rows.map((row, i) => (
        <Row key={row.label} row={row} axis={axis} order={i} />
      ))}
      {ticks(span.from * whole, span.to * whole, Math.max(2, Math.floor(wide / 110))).map((tick) => {
        const x = axis.x(tick / whole);
        // beside the right edge the words stand before their line
        const atEnd = x > left + wide - 40;
        return (
          <g key={tick} transform={`translate(${x}, 0)`}>
            <line y1={14} y2={LINE} stroke={COLOURS.ink} />
            <text x={atEnd ? -3 : 3} textAnchor={atEnd ? 'end' : 'start'} y={12} fill={COLOURS.ink}>
              {text(tick / whole)}
            </text>
          </g>
        );
      })}
      {marks.map((mark, i) =>
        inSpan(mark.share) ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: points are known by their order
          <Mark key={i} {...mark} x={axis.x(mark.share)} number={i + 1} />
        ) : null,
      )}
    </svg>
  );
}

/** Nearer to each other than this, places are a band, pixels. */
const BAND = 2;

/** Places of one kind, as small marks above the line; each kind its own form. */
function Row({ row, axis, order }: { row: MarkRow; axis: Axis; order: number }) {
  const { width, span } = axis;
  const seen = row.shares.filter((share) => share >= span.from && share <= span.to);
  const form = FORMS[order % FORMS.length];
  const dense = seen.length * BAND > width;
  return (
    <path
      d={
        dense
          ? `M${axis.x(Math.min(...seen))} ${LINE - 4}H${axis.x(Math.max(...seen))}`
          : seen.map((share) => `M${axis.x(share).toFixed(1)} ${LINE}${form}`).join('')
      }
      fill="none"
      stroke={COLOURS.kelp}
      strokeWidth={dense ? 4 : 1.5}
    >
      <title>{`${row.shares.length} ${row.label.toLowerCase()}`}</title>
    </path>
  );
}

/** A stroke, a wedge, a cross, a hook: from the line upwards. */
const FORMS = ['v-6', 'm-3 -6l3 6l3 -6', 'm-2 -6l4 4m0 -4l-4 4', 'v-6h3'] as const;

function Mark({ corner, held, x, number }: PointMark & { x: number; number: number }) {
  const size = corner ? 6 : 7;
  return (
    <rect
      x={x - size / 2}
      y={LINE - size / 2}
      width={size}
      height={size}
      rx={corner ? 0 : size / 2}
      fill={held ? COLOURS.tide : COLOURS.panel}
      stroke={COLOURS.tide}
      strokeWidth={1.5}
    >
      <title>{`Point ${number}${corner ? ', a corner' : ''}, ${held ? 'held on a prop' : 'free'}`}</title>
    </rect>
  );
}
