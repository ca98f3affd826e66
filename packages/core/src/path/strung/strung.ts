import { allocateCurves, CURVE, type CurveSet, POINT } from '../../curve/curve-set.js';
import { greatest } from '../../numeric/lane.js';
import { pairAt } from '../../numeric/pair.js';
import { childId, hashText, randomAt } from '../../numeric/random.js';
import { addScaled, distance, dot, normalize, scale, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Surface } from '../../surface/surface.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { noCurves } from '../trace.js';
import { guidedConnections } from './along-guide.js';
import { type Attachment, attachmentsOf, nearestPlace, type Where } from './attachments.js';
import { clearancesOf } from './clearance.js';
import { type Connection, changed, connectionsOf, crossedOver } from './connections.js';
import { clearOf, laid } from './draping.js';
import { FREE_STEPS, MAX_STEPS, type Pay, type Span, spanBetween, writeFree, writeSpan } from './hanging.js';
import { LINK } from './link.js';
import { Obstacles } from './obstacles.js';
import { STRUNG } from './parameters.js';
import { scatteredConnections } from './scattered-places.js';

/** Lines of one piece at most. */
export const MAX_LINES = 20_000;
/** Things of which each is compared with each, and places round a line that it may cross over to. */
const MAX_COMPARED = 2000;
const MAX_PARALLEL = 200;

type Strung = ValuesOf<typeof STRUNG>;

export const strung = defineUnit({
  stage: 'path',
  id: 'strung',
  label: 'Strung',
  purpose: 'Hangs lines between posts, hulls, line ends or points all over props.',
  synonyms: ['hang', 'cable', 'power line', 'washing line', 'catenary', 'web', 'garland', 'span'],
  together: true,
  sample: {
    parameters: {
      anchors: [
        { on: 'place', id: 'a', position: [-0.17, 0.1, 0.02] },
        { on: 'place', id: 'b', position: [0, 0.12, -0.02] },
        { on: 'place', id: 'c', position: [0.17, 0.09, 0.01] },
      ],
      strands: 3,
      spread: 0.02,
      slack: { least: 0.04, most: 0.14 },
    },
  },
  parameters: STRUNG,
  presets: [{ id: 'strung', label: 'Strung', parameters: {} }],
  describe: ({ fasten, lines, anchors, strands, every }, length) =>
    fasten === 'scattered'
      ? `${lines.toLocaleString('en')} lines`
      : fasten === 'guided'
        ? `Across, every ${length(every)}`
        : `${anchors.length} anchors${strands > 1 ? `, ${strands} strands each` : ''}`,
  build(_input, p, context) {
    const up = upOf(p);
    const found =
      p.fasten === 'scattered'
        ? scattered(p, context)
        : p.fasten === 'guided'
          ? guided(p, context)
          : picked(p, up, context);
    if (!found) return noCurves();
    const places = [
      ...new Map(found.flatMap(({ from, to }) => [from, to]).map((place) => [place.key, place])).values(),
    ];
    return lead(found, places, p, up, context);
  },
});

/** Against what lines hang by: gravity with the push of the wind. */
function upOf({ down, wind, lean }: Strung): Vec3 {
  const plumb = normalize(vec3(), down);
  const level = addScaled(vec3(), wind, plumb, -dot(wind, plumb));
  normalize(level, level);
  return normalize(vec3(), addScaled(vec3(), scale(vec3(), plumb, -1), level, -Math.tan(lean)));
}

function picked(p: Strung, up: Vec3, context: BuildContext): Connection[] | undefined {
  const groups: Attachment[][] = [];
  let gone = 0;
  for (const pick of p.anchors) {
    const places = attachmentsOf(pick, p.where as Where, p.ends, scale(vec3(), normalize(vec3(), p.down), -1), context);
    if (places.length > 0) groups.push(places);
    else gone++;
  }
  if (gone > 0)
    context.report({
      code: 'anchor-gone',
      severity: 'error',
      message: `${gone === 1 ? 'An anchor is' : `${gone} anchors are`} missing, hidden or empty; the others are connected. Remove ${gone === 1 ? 'it' : 'them'} from the list, or restore ${gone === 1 ? 'it' : 'them'}.`,
    });
  if (groups.length > MAX_COMPARED && ['near', 'each', 'chance'].includes(p.order)) {
    context.report({
      code: 'too-many-lines',
      severity: 'warning',
      message: `${groups.length.toLocaleString('en')} anchors are too many to compare: the first ${MAX_COMPARED.toLocaleString('en')} are connected. Connect them in order, or use several pieces.`,
      size: { value: groups.length, limit: MAX_COMPARED, kind: 'count' },
    });
    groups.length = MAX_COMPARED;
  }
  const own = groups.length === 1 && groups[0].length > 1 && p.changes.some(({ how }) => how === 'added');
  if (groups.length < 2 && !own) {
    context.report({
      code: 'anchors-few',
      severity: 'warning',
      message:
        groups.length === 0
          ? 'No anchors are picked. Pick two or more.'
          : 'Only one anchor is picked. Pick another one.',
    });
    return undefined;
  }
  const made = changed(connectionsOf(groups, p, up, MAX_LINES), p.changes, groups.flat());
  return p.where === 'near' ? made.map((one) => nearest(one, context)) : made;
}

/** Both ends where their bodies are nearest to each other. */
function nearest(one: Connection, { surroundings }: BuildContext): Connection {
  const surface = (place: Attachment): Surface | undefined =>
    place.prop ? surroundings.surface(place.prop) : undefined;
  const [a, b] = [surface(one.from), surface(one.to)];
  const first = b ? nearestPlace(b, one.from.at).at : one.to.at;
  const from = { ...one.from, ...(a ? nearestPlace(a, first) : {}) };
  return { ...one, from, to: { ...one.to, ...(b ? nearestPlace(b, from.at) : {}) } };
}

function scattered(p: Strung, context: BuildContext): Connection[] | undefined {
  const bodies = new Map<string, Surface>();
  let gone = 0;
  for (const pick of p.anchors) {
    if (pick.on !== 'prop') continue;
    const surface = context.surroundings.surface(pick.id);
    if (surface) bodies.set(pick.id, surface);
    else gone++;
  }
  if (gone > 0 || bodies.size === 0)
    context.report({
      code: bodies.size === 0 ? 'anchors-few' : 'anchor-gone',
      severity: bodies.size === 0 ? 'warning' : 'error',
      message:
        bodies.size === 0
          ? 'No prop is picked to spread lines over. Pick one or more.'
          : 'A prop is missing or hidden. Remove it from the list, or restore it.',
    });
  if (bodies.size === 0) return undefined;
  const { connections, area } = scatteredConnections(bodies, p);
  if (connections.length === 0 && p.lines > 0)
    context.report({
      code: 'no-places',
      severity: 'warning',
      message: !(area > 0)
        ? 'No face of the props is within the slope limits. Widen "Min slope" and "Max slope".'
        : p.between === 'bodies' && bodies.size < 2
          ? 'Only one body is picked. Pick another one, or set the span to the same body.'
          : 'No two anchors are within the span limits. Change "Min span" and "Max span".',
    });
  return changed(
    connections,
    p.changes,
    connections.flatMap(({ from, to }) => [from, to]),
  );
}

function guided(p: Strung, context: BuildContext): Connection[] | undefined {
  const { connections, guides } = guidedConnections(
    p,
    scale(vec3(), normalize(vec3(), p.down), -1),
    MAX_LINES,
    context,
  );
  if (connections.length === 0)
    context.report(
      guides === 0
        ? {
            code: 'anchors-few',
            severity: 'warning',
            message: 'No line is picked to go across. Pick a drawn line or a piece, and the walls beside it.',
          }
        : {
            code: 'no-walls',
            severity: 'warning',
            message:
              'No wall is in reach on both sides of the line. Increase "Max span", or move the line between two bodies.',
          },
    );
  return changed(
    connections,
    p.changes,
    connections.flatMap(({ from, to }) => [from, to]),
  );
}

/** One line as it is planned: a span, or what hangs from one end. */
interface Planned {
  id: number;
  from: number;
  to: number;
  span: Span;
  /** Broken: which way it left by, and how far it hangs. */
  free?: { at: Vec3; way: Vec3; drop: number };
}

const BROKEN = hashText('broken');
const CROSSES = hashText('crosses');
const WHICH = hashText('which end');
const DROP = hashText('drop');
const ASIDE = ['x', 'y', 'z', 'slack'].map((name) => hashText(`disorder ${name}`));

function lead(
  connections: readonly Connection[],
  places: readonly Attachment[],
  p: Strung,
  up: Vec3,
  context: BuildContext,
): CurveSet {
  const obstacles = new Obstacles(
    context.surroundings,
    scale(vec3(), normalize(vec3(), p.down), -1),
    greatest(context.thickness),
  );
  const most = Math.floor(MAX_LINES / p.strands);
  if (connections.length > most)
    context.report({
      code: 'too-many-lines',
      severity: 'warning',
      message: `Needs ${(connections.length * p.strands).toLocaleString('en')} lines (limit ${(most * p.strands).toLocaleString('en')}): fewer are made. Reduce the strands, or "Max distance".`,
      size: { value: connections.length * p.strands, limit: MAX_LINES, kind: 'count' },
    });
  const plans: Planned[] = [];
  const faults: Faults = { together: 0, stretched: 0, worst: 0, share: 0 };
  for (const [k, one] of connections.slice(0, most).entries()) {
    // of very many places those that are next in order
    const beside =
      places.length > MAX_PARALLEL ? places.slice(Math.max(0, k - MAX_PARALLEL / 2), k + MAX_PARALLEL / 2) : places;
    for (let s = 0; s < p.strands; s++) {
      const planned = planOf(one, s, beside, p, up, obstacles, faults);
      if (planned) plans.push(planned);
    }
    if (k % 512 === 511) context.step((0.5 * k) / Math.min(most, connections.length));
  }
  report(faults, p, connections.length, context);
  return p.clear > 0
    ? lookedOver(written(plans, p, up, obstacles, context), p.clear, obstacles.reach, context)
    : written(plans, p, up, obstacles, context);
}

/** The lines, with how clear each of them is; what comes too near is reported at its worst. */
function lookedOver(
  lines: CurveSet,
  clear: number,
  reach: number,
  { surroundings, report: tell }: BuildContext,
): CurveSet {
  const { least, worst } = clearancesOf(lines, reach, clear, surroundings);
  if (worst && worst.near < clear) {
    const near = least.reduce((sum, one) => sum + (one < clear ? 1 : 0), 0);
    tell({
      code: 'too-near',
      severity: 'warning',
      message: `${near === 1 ? 'A line is' : `${near} lines are`} too close to ${worst.to === 'prop' ? 'a prop' : 'another line'}: {value} (limit {limit}). Reduce the slack, move the anchors, or lower the clearance.`,
      place: worst.place,
      along: worst.along,
      size: { value: worst.near, limit: clear, kind: 'length' },
    });
  }
  return { ...lines, curveData: { ...lines.curveData, [LINK.clear]: least } };
}

interface Faults {
  /** Connections whose ends are in one place. */
  together: number;
  /** Lines that are too short for where their ends were moved, by how many metres and what share at most. */
  stretched: number;
  worst: number;
  share: number;
}

function planOf(
  one: Connection,
  s: number,
  places: readonly Attachment[],
  p: Strung,
  up: Vec3,
  obstacles: Obstacles,
  faults: Faults,
): Planned | undefined {
  const id = childId(one.id, s);
  const crossed =
    p.crossing > 0 && randomAt(p.seed, id, CROSSES) < p.crossing ? crossedOver(one, places, id, p.seed) : undefined;
  const end = crossed ?? one.to;
  const [from, to] = [beside(one, one.from, s, id, 0, p, up, obstacles), beside(one, end, s, id, 1, p, up, obstacles)];
  const straight = distance(from, to);
  if (!(straight > 1e-9)) {
    faults.together++;
    return undefined;
  }
  const keys = { id, from: one.from.key, to: end.key };
  const pay = payOf(one.from, end, straight, id, p, faults);
  if (p.broken > 0 && randomAt(p.seed, id, BROKEN) < p.broken) {
    const atStart = randomAt(p.seed, id, WHICH) < 0.5;
    const [at, other] = atStart ? [from, to] : [to, from];
    const way = normalize(vec3(), subtract(vec3(), other, at));
    const wanted = Math.min(straight, p.longestDrop) * (0.35 + 0.65 * randomAt(p.seed, id, DROP));
    const drop = Math.min(
      wanted,
      p.meets === 'through' ? Infinity : obstacles.under(addScaled(vec3(), at, way, 0.1 * wanted)),
    );
    return drop > 1e-6 ? { ...keys, span: spanBetween(from, to, up, pay), free: { at, way, drop } } : undefined;
  }
  return { ...keys, span: spanBetween(from, to, up, pay) };
}

/** Where strand `s` is fastened: beside its neighbours, and out of order. */
function beside(
  { from, to }: Connection,
  { at: place, off, prop }: Attachment,
  s: number,
  id: number,
  end: number,
  p: Strung,
  up: Vec3,
  obstacles: Obstacles,
): Vec3 {
  const reach = obstacles.reach + p.standoff;
  // its skin lies on what it is fastened to
  const at = addScaled(vec3(), place, off, reach);
  if (p.strands === 1 && p.disorder === 0) return at;
  const way = subtract(vec3(), to.at, from.at);
  const side: Vec3 = [
    up[1] * way[2] - up[2] * way[1],
    up[2] * way[0] - up[0] * way[2],
    up[0] * way[1] - up[1] * way[0],
  ];
  normalize(side, side);
  const out = addScaled(vec3(), at, side, (s - (p.strands - 1) / 2) * p.spread);
  if (p.disorder > 0)
    for (let n = 0; n < 3; n++)
      out[n] += p.disorder * p.spread * (2 * randomAt(p.seed, childId(id, end), ASIDE[n]) - 1);
  // beside its neighbours, but on what it is fastened to where it does not stand off that
  return prop === undefined || p.standoff > 0 ? out : obstacles.onto(prop, out, reach);
}

function payOf(from: Attachment, to: Attachment, straight: number, id: number, p: Strung, faults: Faults): Pay {
  // out of order by as much as it hangs
  const loose = p.disorder > 0 ? 1 + p.disorder * (2 * randomAt(p.seed, id, ASIDE[3]) - 1) : 1;
  if (p.by === 'sag') return { by: 'sag', drop: pairAt(p.sag, p.seed, id, 'sag') * loose };
  if (p.by === 'pull') return { by: 'pull', a: p.weight > 0 ? p.pull / (p.weight * loose) : Infinity };
  const slack = pairAt(p.slack, p.seed, id, 'slack') * loose;
  if (p.moves !== 'kept') return { by: 'slack', slack };
  const was = distance(subtract(vec3(), from.at, from.moved), subtract(vec3(), to.at, to.moved)) * (1 + slack);
  if (was < straight * (1 - 1e-9)) {
    faults.stretched++;
    faults.worst = Math.max(faults.worst, straight - was);
    faults.share = Math.max(faults.share, straight / was - 1);
  }
  return { by: 'length', metres: was };
}

function report(
  { together, stretched, worst, share }: Faults,
  p: Strung,
  connections: number,
  { report: tell }: BuildContext,
): void {
  if (together > 0)
    tell({
      code: 'anchors-together',
      severity: 'warning',
      message: `${together === 1 ? 'One line has' : `${together} lines have`} both ends in one position and ${together === 1 ? 'is' : 'are'} removed. Move an anchor, or remove one from the list.`,
    });
  if (stretched > 0)
    tell({
      code: 'overstretched',
      severity: 'warning',
      message: `${stretched === 1 ? 'One line is' : `${stretched} lines are`} too short for the current anchors: stretched by up to {value} (${(100 * share).toFixed(0)} %). Move the anchors closer, add slack, or let lines lengthen.`,
      size: { value: worst, limit: 0, kind: 'length' },
      fix: { label: 'Lengthen the line', kind: 'set', stage: 'path', parameter: 'moves', value: 'paid' },
    });
  if (p.by === 'pull' && !(p.weight > 0) && connections > 0)
    tell({
      code: 'no-weight',
      severity: 'note',
      message: 'Without weight the line runs straight. Set a weight.',
    });
}

function written(
  plans: readonly Planned[],
  p: Strung,
  up: Vec3,
  obstacles: Obstacles,
  context: BuildContext,
): CurveSet {
  const looks = p.meets !== 'through' && !context.surroundings.isEmpty;
  const lying = new Map<Planned, Float64Array>();
  const kept: Planned[] = [];
  const scratch = new Float64Array(3 * (MAX_STEPS + 1));
  for (const [k, plan] of plans.entries()) {
    if (k % 512 === 511) context.step(0.5 + (0.5 * k) / plans.length);
    if (!looks || plan.free) {
      kept.push(plan);
      if (looks && plan.free) lying.set(plan, clearOf(freeLine(plan.free, up), obstacles));
      continue;
    }
    const steps = plan.span.steps + 1;
    writeSpan(plan.span, up, scratch, 0);
    if (!obstacles.meets(scratch, 0, steps)) kept.push(plan);
    else if (p.meets !== 'dropped') {
      kept.push(plan);
      lying.set(plan, laid(plan.span, up, obstacles, p));
      // to lie on something takes a thousand times as long as to hang
      context.step(0.5 + (0.5 * k) / plans.length);
    }
  }
  const count = (plan: Planned) =>
    (lying.get(plan)?.length ?? 3 * ((plan.free ? FREE_STEPS : plan.span.steps) + 1)) / 3;
  const points = kept.reduce((sum, plan) => sum + count(plan), 0);
  const out = allocateCurves(kept.length, points, [POINT.knot, POINT.corner, POINT.radius, POINT.source, POINT.along]);
  out.pointData[POINT.radius].fill(1);
  out.pointData[POINT.source].fill(-1);
  out.curveData[LINK.from] = Uint32Array.from(kept, ({ from }) => from);
  out.curveData[LINK.to] = Uint32Array.from(kept, ({ to }) => to);
  const lengths = new Float32Array(kept.length);
  let at = 0;
  kept.forEach((plan, c) => {
    const { free, span } = plan;
    const rests = lying.get(plan);
    if (rests) out.position.set(rests, 3 * at);
    else if (free) out.position.set(freeLine(free, up), 3 * at);
    else writeSpan(span, up, out.position, 3 * at);
    const end = at + count(plan);
    out.id[c] = plan.id;
    out.start[c + 1] = end;
    out.pointData[POINT.knot][at] = 1;
    if (!free) out.pointData[POINT.knot][end - 1] = 1;
    lengths[c] = measure(out, at, end);
    at = end;
  });
  out.curveData[CURVE.length] = lengths;
  return out;
}

function freeLine({ at, way, drop }: NonNullable<Planned['free']>, up: Vec3): Float64Array {
  const line = new Float64Array(3 * (FREE_STEPS + 1));
  writeFree(at, way, up, drop, line, 0);
  return line;
}

/** Writes how far along each point is. Returns the length. */
function measure({ position, pointData }: CurveSet, first: number, end: number): number {
  const along = pointData[POINT.along];
  let far = 0;
  for (let k = first + 1; k < end; k++) {
    const [i, j] = [3 * k - 3, 3 * k];
    const [x, y, z] = [position[j] - position[i], position[j + 1] - position[i + 1], position[j + 2] - position[i + 2]];
    far += Math.sqrt(x * x + y * y + z * z);
    along[k] = far;
  }
  return far;
}
