/** Part of the length that is looked at, as shares of it. */
export interface Span {
  from: number;
  to: number;
}

export const WHOLE: Span = { from: 0, to: 1 };

/** Nearer than this nothing more is to be seen, as a share of the length. */
const MIN_SPAN = 0.01;

/** Maps shares of the length to pixels across the strip and back. */
export interface Axis {
  /** Where the course begins, and how wide it is, pixels. */
  left: number;
  width: number;
  span: Span;
  x(share: number): number;
  share(x: number): number;
}

export const axisOf = (left: number, width: number, span: Span): Axis => ({
  left,
  width,
  span,
  x: (share) => left + (width * (share - span.from)) / (span.to - span.from),
  share: (x) => span.from + ((x - left) / width) * (span.to - span.from),
});

/** The span `factor` times as long, the place at `share` staying where it is; never beyond the whole. */
export function zoomed({ from, to }: Span, share: number, factor: number): Span {
  const size = Math.min(1, Math.max(MIN_SPAN, (to - from) * factor));
  const part = to > from ? (share - from) / (to - from) : 0.5;
  return within(share - part * size, size);
}

/** The span moved along by a share of itself. */
export const panned = ({ from, to }: Span, by: number): Span => within(from + by * (to - from), to - from);

function within(from: number, size: number): Span {
  const start = Math.max(0, Math.min(1 - size, from));
  return { from: start, to: start + size };
}
