import { childId, hashText, randomAt } from '../../numeric/random.js';
import { distance } from '../../numeric/vector.js';
import { createHit, type Surface } from '../../surface/surface.js';
import { facesBetween } from '../faces-between.js';
import { AreaPicker } from '../roots/area-picker.js';
import type { Attachment } from './attachments.js';
import { type Connection, connection } from './connections.js';

export interface ScatterChoice {
  /** This many lines in all. */
  lines: number;
  from: number;
  to: number;
  /** 'bodies': from one to another; 'own': on one body itself; 'any'. */
  between: string;
  shortest: number;
  longest: number;
  seed: number;
}

/** Places that are drawn for a line's other end: of those in reach the first is taken. */
const TRIES = 48;
const FIRST = hashText('strung first');
const SECOND = hashText('strung second');

/** The faces that count of one body, and how much of all bodies' area lies on it and those before. */
interface Body {
  id: string;
  picker: AreaPicker;
  surface: Surface;
  until: number;
}

/**
 * Lines between places at random on bodies: the k-th hangs on its number alone, so that more of them move none. A line that
 * finds no other end in reach is left out.
 */
export function scatteredConnections(
  props: ReadonlyMap<string, Surface>,
  p: ScatterChoice,
): { connections: Connection[]; area: number } {
  const bodies: Body[] = [];
  let area = 0;
  for (const [id, surface] of props) {
    const picker = new AreaPicker(surface.mesh, facesBetween(surface, p.from, p.to));
    if (!(picker.area > 0)) continue;
    area += picker.area * surface.placement.scale ** 2;
    bodies.push({ id, picker, surface, until: area });
  }
  const connections: Connection[] = [];
  if (bodies.length === 0) return { connections, area: 0 };
  const hit = createHit();
  const place = (which: number, k: number, name: number): Attachment => {
    const id = childId(which, k);
    const far = randomAt(p.seed, id, name) * area;
    const body = bodies.find(({ until }) => far < until) ?? bodies[bodies.length - 1];
    const draw = (n: number) => randomAt(p.seed, childId(id, n), name);
    body.picker.pick(draw(1), draw(2), draw(3));
    body.surface.place(body.picker.triangle, body.picker.shares, hit);
    const { point: at, normal: off } = hit;
    return {
      key: childId(id, name),
      at: [at[0], at[1], at[2]],
      off: [off[0], off[1], off[2]],
      moved: [0, 0, 0],
      prop: body.id,
    };
  };
  for (let k = 0; k < p.lines; k++) {
    const from = place(k, 0, FIRST);
    for (let n = 0; n < TRIES; n++) {
      const to = place(k, n, SECOND);
      const same = to.prop === from.prop;
      const far = distance(from.at, to.at);
      if ((p.between === 'bodies' && same) || (p.between === 'own' && !same) || far < p.shortest || far > p.longest)
        continue;
      connections.push(connection(from, to));
      break;
    }
  }
  return { connections, area };
}
