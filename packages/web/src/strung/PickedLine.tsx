import { useAppSelector } from '../app/store.js';
import type { Guide } from '../evaluation/protocol.js';
import { usePalette } from '../theme/scheme.js';
import { Polyline } from '../view/Polyline.js';

/** The one line of a strung piece that was picked: broad, and seen through whatever stands before it. */
export function PickedLine({ guide }: { guide: Guide }) {
  const palette = usePalette();
  const line = useAppSelector((state) => state.view.link?.line);
  const c = line === undefined ? -1 : guide.id.indexOf(line);
  if (c < 0) return null;
  const points: [number, number, number][] = [];
  for (let p = guide.start[c]; p < guide.start[c + 1]; p++)
    points.push([guide.position[3 * p], guide.position[3 * p + 1], guide.position[3 * p + 2]]);
  return points.length > 1 ? (
    <Polyline points={points} color={palette.tide} width={5} opacity={0.85} through order={11} />
  ) : null;
}
