import { curveCount } from '../../curve/curve-set.js';
import type { Walk } from '../../curve/walk.js';
import { childId } from '../../numeric/random.js';
import { cross, dot, length, pointOf, scale, turn, type Vec3, vec3 } from '../../numeric/vector.js';
import { chordLine, type Joints, jointsAlong, jointsToEnd } from '../elements/chords.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { frameAt, roomFor, type Stations, walkOf } from '../elements/stations.js';
import type { ChainKind } from './kinds.js';
import { endTurn } from './link.js';

/** Links asked for at most: more are a typing error, or another program's memory. */
export const MAX_LINKS = 200_000;
/** Rounds in which links come to touch in bends. */
const SETTLE = 4;

/** The links of a chain: where each is, which way it runs, and how much larger than asked those of each line are. */
export interface Links {
  stations: Stations;
  scale: Float64Array;
  /** Lines on which not one link has room. */
  short: number[];
  /** Some were left out. */
  cut: boolean;
}

/**
 * Links lie on chords of their line, from joint to joint. Links of wire hook into each other: at a joint the ends of both stand
 * half a wire to either side of it, along the direction that is square to both wires there, which is how two bars that touch
 * stand. Where the chain bends, chords and directions are worked out anew until they agree.
 * @param radius of the wire, metres
 * @param turnOf how far a link is turned about the chain, at a share of its line
 * @param whole drawn out or in by one factor so that the last link ends at the end; closed lines always are
 */
export function linksAlong(
  framed: FramedLines,
  kind: ChainKind,
  radius: number,
  turnOf: (share: number, ordinal: number) => number,
  whole: boolean,
): Links {
  const { lines, lengths } = framed;
  const pitch = 2 * radius * kind.pitch;
  const sizes = new Float64Array(curveCount(lines)).fill(1);
  const chains: Stations[] = [];
  const short: number[] = [];
  let left = MAX_LINKS;
  let cut = false;
  for (let c = 0; c < curveCount(lines) && !cut; c++) {
    const walk = walkOf(framed, c);
    const line = chordLine(lines, c, lengths[c], walk.at);
    const closed = lines.closed[c] === 1;
    const fitted = closed || whole;
    const count = countOn(lengths[c] / pitch, kind, closed, whole);
    if (count === 0) {
      short.push(c);
      continue;
    }
    cut = count > left;
    const most = Math.min(left, count);
    // what is let out to both ends must not be drawn over what was left out
    const lay = (chordOf: (k: number) => number): Joints =>
      fitted && !cut ? jointsToEnd(line, chordOf, most) : jointsAlong(line, chordOf, Math.min(left, most + 1));
    let joints = lay(() => pitch);
    let chain = onChords(framed, c, walk, joints);
    for (let round = 0; isWire(kind) && round < SETTLE; round++) {
      const hooks = hooksOf(chain, kind, turnOf, closed);
      const chords = chordsOf(joints, hooks, pitch, radius);
      joints = lay((k) => chords[Math.min(k, chords.length - 1)]);
      chain = onChords(framed, c, walk, joints);
      hookedUp(chain, joints, hooks, radius * joints.scale);
    }
    sizes[c] = joints.scale;
    left -= chain.id.length;
    chains.push(chain);
  }
  return { stations: joined(chains), scale: sizes, short, cut };
}

/** Links of bent wire, which hook into each other. */
export const isWire = ({ form }: ChainKind): boolean => form === 'link' || form === 'stud' || form === 'curb';

/** How many links a line of this many pitches gets; 0 where it is too short. */
function countOn(pitches: number, { form }: ChainKind, closed: boolean, whole: boolean): number {
  if (!closed) return whole ? Math.round(pitches) : Math.floor(pitches * (1 + 1e-9));
  // links that are across each other, or are of two kinds, by turns meet again after an even number
  const even = form === 'link' || form === 'stud' || form === 'roller';
  const count = even ? 2 * Math.round(pitches / 2) : Math.round(pitches);
  return count < (even ? 4 : 3) ? 0 : count;
}

/** Links straight from joint to joint. */
function onChords(framed: FramedLines, c: number, walk: Walk, { at, along }: Joints): Stations {
  const links = along.length - 1;
  const out = roomFor(links);
  for (let k = 0; k < links; k++) {
    out.id[k] = childId(framed.lines.id[c], k);
    out.curve[k] = c;
    out.ordinal[k] = k;
    out.along[k] = (along[k] + along[k + 1]) / 2;
    out.share[k] = out.along[k] / (framed.lengths[c] || 1);
    frameAt(framed, walk, out.along[k], out, k);
    lieFromTo(out, k, at.subarray(3 * k), at.subarray(3 * k + 3));
  }
  return out;
}

/** Lays entry `n` from a place to another, and leans its way up with it. */
function lieFromTo({ at, tangent, up }: Stations, n: number, from: ArrayLike<number>, to: ArrayLike<number>): void {
  const o = 3 * n;
  const size = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]) || 1;
  let dot = 0;
  for (let i = 0; i < 3; i++) {
    tangent[o + i] = (to[i] - from[i]) / size;
    at[o + i] = (from[i] + to[i]) / 2;
    dot += tangent[o + i] * up[o + i];
  }
  for (let i = 0; i < 3; i++) up[o + i] -= dot * tangent[o + i];
  const tall = Math.hypot(up[o], up[o + 1], up[o + 2]) || 1;
  for (let i = 0; i < 3; i++) up[o + i] /= tall;
}

/** At each joint, from the one before the first link to the one after the last: square to both wires, along the chain. Unit, flat xyz. */
function hooksOf(
  chain: Stations,
  kind: ChainKind,
  turnOf: (share: number, ordinal: number) => number,
  closed: boolean,
): Float64Array {
  const links = chain.id.length;
  const out = new Float64Array(3 * links + 3);
  const [a, b, n] = [vec3(), vec3(), vec3()];
  for (let k = 0; k <= links; k++) {
    const before = k > 0 ? k - 1 : closed ? links - 1 : -1;
    const after = k < links ? k : closed ? 0 : -1;
    const along = pointOf(chain.tangent, before < 0 ? after : before);
    if (before < 0 || after < 0) {
      out.set(along, 3 * k);
      continue;
    }
    wireAcross(a, chain, before, turnOf, endTurn(kind));
    wireAcross(b, chain, after, turnOf, -endTurn(kind));
    cross(n, a, b);
    const size = length(n);
    // wires that lie along each other hook nowhere: the chain is folded there
    if (size > 0.2) scale(n, n, (dot(n, along) < 0 ? -1 : 1) / size);
    out.set(size > 0.2 ? n : along, 3 * k);
  }
  return out;
}

/** Which way the wire runs where a link ends: across the chain, as the link is turned. */
function wireAcross(
  out: Vec3,
  { tangent, up, share, ordinal }: Stations,
  n: number,
  turnOf: (share: number, ordinal: number) => number,
  further: number,
): void {
  const t = pointOf(tangent, n);
  const y = turn(vec3(), pointOf(up, n), t, turnOf(share[n], ordinal[n]));
  turn(out, cross(vec3(), y, t), t, further);
}

/** How long each chord has to be for a link to reach from hook to hook. */
function chordsOf({ at }: Joints, hooks: Float64Array, pitch: number, radius: number): number[] {
  const out: number[] = [];
  for (let k = 0; 3 * k + 3 < at.length; k++) {
    const i = 3 * k;
    const chord = [0, 1, 2].map((n) => at[i + 3 + n] - at[i + n]);
    const size = Math.hypot(...chord) || 1;
    let [along, square] = [0, 0];
    for (let n = 0; n < 3; n++) {
      const w = radius * (hooks[i + n] + hooks[i + 3 + n]);
      along += (w * chord[n]) / size;
      square += w * w;
    }
    // | chord + w | is what a link measures between the middles of its end wires
    const far = pitch + 2 * radius;
    out.push(Math.max(0.2 * pitch, -along + Math.sqrt(Math.max(0, far * far - square + along * along))));
  }
  return out;
}

/** Lays links from hook to hook. */
function hookedUp(chain: Stations, { at }: Joints, hooks: Float64Array, radius: number): void {
  const [from, to] = [vec3(), vec3()];
  for (let k = 0; k < chain.id.length; k++) {
    const i = 3 * Math.min(k, hooks.length / 3 - 2);
    for (let n = 0; n < 3; n++) {
      from[n] = at[3 * k + n] - radius * hooks[i + n];
      to[n] = at[3 * k + 3 + n] + radius * hooks[i + 3 + n];
    }
    lieFromTo(chain, k, from, to);
  }
}

function joined(chains: readonly Stations[]): Stations {
  if (chains.length === 1) return chains[0];
  const out = roomFor(chains.reduce((sum, { id }) => sum + id.length, 0));
  let n = 0;
  for (const chain of chains) {
    for (const name of ['id', 'curve', 'ordinal', 'along', 'share'] as const) out[name].set(chain[name], n);
    for (const name of ['at', 'tangent', 'up'] as const) out[name].set(chain[name], 3 * n);
    n += chain.id.length;
  }
  return out;
}
