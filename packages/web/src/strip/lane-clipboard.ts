import { type AlongValue, greatest, mapAlong, type NumberParameter } from '@kelp/core';

interface Copied {
  value: AlongValue;
  kind: NumberParameter['kind'];
}

/** The course that was copied last; it can be put on any lane of any piece. */
let copied: Copied | null = null;

export function copyLane(value: AlongValue, { kind }: NumberParameter): void {
  copied = { value, kind };
}

export const hasCopied = (): boolean => copied !== null;

/**
 * The copied course for another lane, within its limits. Of the same kind it comes as it is; else its shape alone,
 * scaled so that its greatest value is the one the lane has now.
 */
export function pastedLane(now: AlongValue, { kind, min, max }: NumberParameter): AlongValue {
  if (!copied) return now;
  const peak = greatest(mapAlong(copied.value, Math.abs));
  const scale = copied.kind === kind || peak === 0 ? 1 : greatest(mapAlong(now, Math.abs)) / peak;
  return mapAlong(copied.value, (value) => Math.min(max, Math.max(min, value * scale)));
}
