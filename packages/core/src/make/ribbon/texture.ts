import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import type { Mesh } from '../../mesh/mesh.js';
import { hashText, randomsOf } from '../../numeric/random.js';

export interface RibbonTexture {
  /** What once along a picture is: the longest ribbon, the shortest, each its own length, or a metre. */
  along: string;
  /** Whether the picture begins at the root or ends at the tip. */
  pinned: string;
  /** The picture is this many strips side by side; which one a ribbon wears, counted from 1, or any. */
  strips: number;
  strip: number;
  /** By how much of a picture each is slid along it at most. */
  slide: number;
  seed: number;
}

const STRIP = hashText('strip');
const SLIDE = hashText('slide');

/**
 * Lays the texture of ribbons as it is asked: u within a ribbon's strip, v along its length. What it is made of (rings and
 * columns) moves none: u and v come from where a place is, by true length.
 * @param columns vertices of each ring; v is metres from the root, u across from 0 to 1
 */
export function layTexture(mesh: Mesh, rails: CurveSet, columns: number, t: RibbonTexture): void {
  const strips = Math.max(1, t.strips);
  // a picture a metre long from the root on, one strip wide: so it lies already
  if (t.along === 'metre' && t.pinned !== 'tip' && strips === 1 && t.slide === 0) return;
  const { uv } = mesh;
  const lengths = curveLengths(rails);
  const [longest, shortest] = [
    lengths.reduce((a, b) => Math.max(a, b), 0),
    lengths.reduce((a, b) => Math.min(a, b), Infinity),
  ];
  const drawn = randomsOf(t.seed, STRIP);
  const slid = randomsOf(t.seed, SLIDE);
  let vertex = 0;
  for (let c = 0; c < curveCount(rails); c++) {
    const id = rails.id[c];
    const length = lengths[c];
    const whole = { own: length, longest, shortest, metre: 1 }[t.along] || 1;
    const begin = (t.pinned === 'tip' ? 1 - length / whole : 0) + (t.slide > 0 ? t.slide * slid(id) : 0);
    const strip = t.strip > 0 ? (t.strip - 1) % strips : Math.floor(strips * drawn(id));
    const end = vertex + (rails.start[c + 1] - rails.start[c] + rails.closed[c]) * columns;
    for (; vertex < end; vertex++) {
      uv[2 * vertex] = (strip + uv[2 * vertex]) / strips;
      uv[2 * vertex + 1] = begin + uv[2 * vertex + 1] / whole;
    }
  }
}
