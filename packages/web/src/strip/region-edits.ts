import {
  type AlongValue,
  freeName,
  isLane,
  type KelpDocument,
  type Lane,
  type NumberParameter,
  type Region,
  referencesOf,
  valueAt,
} from '@kelp/core';
import { newId } from '../state/edits.js';

/** A new region is this much of its line in radius, and its edge as soft again. */
const SHARE = 0.12;

/** A ball about the middle of the first line. */
export function regionAbout(
  document: KelpDocument,
  { position, start }: { position: ArrayLike<number>; start: ArrayLike<number> },
  length: number,
): Region {
  const p = Math.floor((start[0] + start[1] - 1) / 2);
  const size = Math.max(1e-6, SHARE * length);
  return {
    id: newId(),
    name: freeName('Region', document.regions),
    form: 'ball',
    position: [position[3 * p], position[3 * p + 1], position[3 * p + 2]],
    size: [size, size, size],
    rotation: [0, 0, 0, 1],
    edge: size,
  };
}

/** What was the same everywhere stays so outside, and is plainly another inside; a course over the length is let go. */
export function drivenBy(value: AlongValue, parameter: NumberParameter, region: string): Lane {
  const from = isLane(value) ? valueAt(value, 0) : value;
  const most = Math.min(parameter.max, parameter.comfortable[1] / 2);
  const into =
    isLane(value) && value.region
      ? valueAt(value, 1)
      : parameter.min < 0
        ? from + most
        : Math.min(parameter.max, from > 0 ? 1.5 * from : most);
  return {
    ease: 'smooth',
    region,
    knots: [
      { at: 0, value: from },
      { at: 1, value: into },
    ],
  };
}

/** Regions that no number asks for any more go. */
export function withoutUnusedRegions(document: KelpDocument): KelpDocument {
  const used = new Set(document.pieces.flatMap((piece) => referencesOf(piece).regions));
  const kept = document.regions.filter(({ id }) => used.has(id));
  return kept.length === document.regions.length ? document : { ...document, regions: kept };
}

export const withRegion = (document: KelpDocument, id: string, change: (region: Region) => Region): KelpDocument => ({
  ...document,
  regions: document.regions.map((region) => (region.id === id ? change(region) : region)),
});
