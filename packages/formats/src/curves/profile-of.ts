import { KelpError, LIMITS, type Profile } from '@kelp/core';
import { SOURCE_UNITS } from '../model/inspect.js';
import type { CurveFile } from './curve-file.js';

/**
 * The paths of a drawing as a profile, in metres by the unit the file says (millimetres where it says none), its middle at 0.
 * What has too many points is thinned evenly.
 * @throws KelpError EMPTY_CURVES when none of its paths closes, TOO_LARGE when it has more than a profile may have
 */
export function profileOf(file: CurveFile, id: string, name: string): Profile {
  const scale = SOURCE_UNITS[file.unit ?? 'mm'];
  const closed = file.curves.filter((curve) => curve.closed);
  if (closed.length === 0)
    throw new KelpError('EMPTY_CURVES', `${name} has no closed path: a profile needs an outline. Close its lines.`);
  if (closed.length > LIMITS.pathsPerProfile)
    throw new KelpError(
      'TOO_LARGE',
      `${name} has ${closed.length.toLocaleString('en')} closed paths; a profile has ${LIMITS.pathsPerProfile} at most.`,
    );
  const every = (count: number) => Math.ceil(count / LIMITS.pointsPerProfile);
  const places = closed.flatMap(({ points }) => points.map(({ position }) => position));
  const [cx, cy] = [0, 1].map((axis) => {
    const [low, high] = places.reduce(
      ([a, b], place) => [Math.min(a, place[axis]), Math.max(b, place[axis])],
      [Infinity, -Infinity],
    );
    return (low + high) / 2;
  });
  return {
    id,
    name,
    paths: closed.map(({ points }) => ({
      closed: true,
      points: points
        .filter((point, i) => point.corner || i % every(points.length) === 0)
        .slice(0, LIMITS.pointsPerProfile)
        .map(({ position: [x, y], corner }) => ({ x: scale * (x - cx), y: scale * (y - cy), corner })),
    })),
  };
}
