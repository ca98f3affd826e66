import { curveCount, POINT } from '../../curve/curve-set.js';
import { boundsOf } from '../../mesh/measure.js';
import { type Mesh, vertexCount } from '../../mesh/mesh.js';
import { type AlongValue, isLane, valueAt } from '../../numeric/lane.js';
import { pointOf } from '../../numeric/vector.js';
import { leastReach } from '../../section/hull.js';
import { type Made, madeOf, type Part } from '../../unit/carriers.js';
import { CONTACT, type Fix } from '../../unit/finding.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { type FramedLines, framedLines } from '../elements/framed-lines.js';
import { elementMarks, PlacementsWriter } from '../elements/placements.js';
import { laidAlong, propElement, reportElement } from '../elements/prop-element.js';
import { bead } from './beads.js';
import { crowdedLinks } from './hooks.js';
import { type ChainKind, chainKind } from './kinds.js';
import { linkLine, linkMesh, linkReach, wireLength } from './link.js';
import { isWire, type Links, linksAlong, MAX_LINKS } from './links.js';
import { CHAIN, CROSSED } from './parameters.js';
import { rollerLinks, rollerReach } from './rollers.js';

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** Kilogrammes of a cubic metre of steel (EN 1993-1-1, 3.2.6). */
const STEEL = 7850;

export const chain = defineUnit({
  stage: 'make',
  id: 'chain',
  label: 'Chain',
  purpose: 'Interlocking links that keep their shape; their number follows the length.',
  synonyms: ['links', 'anchor chain', 'beads', 'pearls', 'necklace', 'bracelet', 'bicycle chain'],
  shelf: 'elements',
  outfits: [
    { id: 'galvanised', label: 'Galvanised', wears: { main: { unit: 'plain', preset: 'steel' } } },
    {
      id: 'brass-chain',
      label: 'Brass',
      wears: { main: { unit: 'plain', preset: 'brass' }, joints: { unit: 'plain', preset: 'brass' } },
    },
    {
      id: 'painted-chain',
      label: 'Painted',
      wears: { main: { unit: 'plain', preset: 'green-paint' }, joints: { unit: 'patterned', preset: 'brushed-steel' } },
    },
  ],
  parameters: CHAIN,
  presets: [
    { id: 'short-link-chain', label: 'Short link', parameters: {} },
    { id: 'anchor-chain', label: 'Stud link', synonyms: ['ship'], parameters: { kind: 'stud', radius: 0.006 } },
    { id: 'long-link-chain', label: 'Long link', parameters: { kind: 'long', radius: 0.004 } },
    {
      id: 'curb-chain',
      label: 'Curb',
      synonyms: ['jewellery', 'necklace'],
      parameters: { kind: 'curb', radius: 0.003, roll: 0 },
    },
    {
      id: 'bead-chain',
      label: 'Beads',
      synonyms: ['ball chain', 'pull chain'],
      parameters: { kind: 'beads', radius: 0.006, roll: 0 },
    },
    {
      id: 'roller-chain',
      label: 'Roller 08B',
      synonyms: ['bicycle', 'motorcycle'],
      parameters: { kind: 'roller-08b', roll: 0 },
    },
  ],
  slots: [{ id: 'joints', label: 'Rollers, rods', wears: { unit: 'plain', preset: 'steel' } }],
  thickness: (p) => reachOf(p, 'x'),
  breadth: (p) => reachOf(p, 'y'),
  cost(input, p, context) {
    const kind = kindOf(p, context);
    const links = linksAlong(framedLines(input, false), kind, sizeOf(p), turnOf(kind, p), p.fit === 'end');
    const vertices = meshesOf(kind, p, context).reduce(
      (sum, { mesh, standsAt }) => sum + vertexCount(mesh) * links.stations.ordinal.filter(standsAt).length,
      0,
    );
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  describe(p, length) {
    const kind = chainKind(p.kind);
    return `${kind.label}, ⌀ ${length(2 * sizeOf(p))}`;
  },
  build(input, p, context) {
    const framed = framedLines(input, false);
    const kind = kindOf(p, context);
    const radius = sizeOf(p);
    const links = linksAlong(framed, kind, radius, turnOf(kind, p), p.fit === 'end');
    if (kind.form === 'own') reportElement(p.link, propElement(p.link, context.surroundings), context.report);
    reportShort(framed, links, 2 * radius * kind.pitch, p, context);
    const axes = axesOf(links, kind, p, radius);
    reportCrowded(links, kind, axes, p, context);
    return madeOf(framed.lines, {
      parts: meshesOf(kind, p, context).map((one) => placedLinks(one, links, axes)),
      bodies: bodiesOf(framed, kind, p, radius),
      marks: elementMarks('Links', links.stations),
      ...figuresOf(framed, links, kind, radius),
    });
  },
});

interface ChainChoice {
  kind: string;
  radius: number;
  pitch: number;
  width: number;
  rod: number;
  link: string;
  lap: number;
  fit: string;
  roll: AlongValue;
  across: number;
  sides: number;
}

const sizeOf = (p: ChainChoice): number => chainKind(p.kind).radius ?? p.radius;

/** The kind with what was changed of it. */
function kindOf(p: ChainChoice, context?: BuildContext): ChainKind {
  const kind = chainKind(p.kind);
  if (kind.radius !== undefined) return kind;
  if (kind.form === 'own') return { ...kind, pitch: ownPitch(p, context) };
  // a link is no wider than what makes a ring of it, and lets its neighbour's wire through
  const pitch = kind.form === 'beads' ? Math.max(1.02, p.pitch * kind.pitch) : Math.max(2.1, p.pitch * kind.pitch);
  if (kind.form === 'roller')
    return { ...kind, pitch: Math.max(1.45, p.pitch * kind.pitch), width: p.width * kind.width };
  return { ...kind, pitch, width: Math.min(pitch + 2, Math.max(3.05, p.width * kind.width)) };
}

/** Of a prop: its length without what is in the next, in its breadths. */
function ownPitch(p: ChainChoice, context: BuildContext | undefined): number {
  const own = context && propElement(p.link, context.surroundings);
  if (!own) return STAND_IN.pitch;
  const { min, max } = boundsOf(laidAlong(own).position);
  return Math.max(0.02, ((max[2] - min[2]) / 2) * (1 - p.lap));
}

/** A part of a chain, and the links of a line by their number at which it is. */
interface LinkMesh {
  id: string;
  name: string;
  mesh: Mesh;
  standsAt(ordinal: number): boolean;
}

function meshesOf(kind: ChainKind, p: ChainChoice, context: BuildContext): LinkMesh[] {
  const sides = Math.max(Math.min(p.sides, 6), Math.round(p.sides * context.density));
  const every = (name: string, mesh: Mesh): LinkMesh[] => [{ id: 'links', name, mesh, standsAt: () => true }];
  switch (kind.form) {
    case 'own': {
      const own = propElement(p.link, context.surroundings);
      return every('Links', own ? laidAlong(own) : linkMesh(STAND_IN, sides));
    }
    case 'beads':
      return every('Beads', bead(kind, p.rod, sides));
    case 'roller': {
      const { inner, outer } = rollerLinks(kind, sides);
      return [
        { id: 'links', name: 'Inner links', mesh: inner, standsAt: (ordinal) => ordinal % 2 === 0 },
        { id: 'outer-links', name: 'Outer links', mesh: outer, standsAt: (ordinal) => ordinal % 2 === 1 },
      ];
    }
    default:
      return every('Links', linkMesh(kind, sides));
  }
}

/** How far a link is turned about the chain. */
function turnOf(kind: ChainKind, p: ChainChoice): (share: number, ordinal: number) => number {
  const step = kind.form === 'own' ? p.across : CROSSED.includes(kind.value) ? Math.PI / 2 : 0;
  return (share, ordinal) => valueAt(p.roll, share) + step * ordinal;
}

/** The axes of link `n` with their scale, and its middle: 12 numbers, the same array each time. */
type Axes = (n: number) => Float64Array;

function axesOf({ stations, scale }: Links, kind: ChainKind, p: ChainChoice, radius: number): Axes {
  const { at, tangent: t, up, curve, ordinal, share } = stations;
  const out = new Float64Array(12);
  const turned = turnOf(kind, p);
  return (n) => {
    const i = 3 * n;
    const angle = turned(share[n], ordinal[n]);
    const [cos, sin, size] = [Math.cos(angle), Math.sin(angle), radius * scale[curve[n]]];
    for (let k = 0; k < 3; k++) {
      const [a, b] = [i + ((k + 1) % 3), i + ((k + 2) % 3)];
      out[3 + k] = size * (cos * up[i + k] + sin * (t[a] * up[b] - t[b] * up[a]));
      out[6 + k] = size * t[i + k];
      out[9 + k] = at[i + k];
    }
    for (let k = 0; k < 3; k++) {
      const [a, b] = [(k + 1) % 3, (k + 2) % 3];
      out[k] = out[3 + a] * t[i + b] - out[3 + b] * t[i + a];
    }
    return out;
  };
}

function placedLinks({ id, name, mesh, standsAt }: LinkMesh, { stations }: Links, axes: Axes): Part {
  const writer = new PlacementsWriter(stations.id.length);
  for (let n = 0; n < stations.id.length; n++) {
    if (!standsAt(stations.ordinal[n])) continue;
    const m = axes(n);
    writer.addFrame(stations, n, m, m.subarray(9));
  }
  return { kind: 'placed', id, name, slot: 'main', mesh, places: writer.finish() };
}

/** Seen along the chain at roll 0, in radii: x is the way up. */
function outlineOf(kind: ChainKind): { x: Float64Array; y: Float64Array } {
  if (kind.form === 'roller') {
    const { x: wide, y: high } = rollerReach(kind);
    return { x: Float64Array.of(high, high, -high, -high), y: Float64Array.of(-wide, wide, wide, -wide) };
  }
  if (kind.form !== 'beads' && kind.form !== 'own') return linkReach(kind);
  const round = Array.from({ length: 16 }, (_, k) => (Math.PI * k) / 8);
  return { x: Float64Array.from(round, Math.cos), y: Float64Array.from(round, Math.sin) };
}

/** How far a chain reaches to one side, as it is rolled. */
function reachOf(p: ChainChoice, side: 'x' | 'y'): number {
  const kind = kindOf(p);
  const { x, y } = outlineOf(kind);
  const angles = isLane(p.roll) ? p.roll.knots.map(({ value }) => value) : [p.roll];
  let far = 0;
  for (const angle of angles) {
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    for (let k = 0; k < x.length; k++)
      far = Math.max(far, Math.abs(side === 'x' ? x[k] * cos - y[k] * sin : x[k] * sin + y[k] * cos));
  }
  return far * sizeOf(p);
}

/** What the checks look at: the line with what the links reach round it. */
function bodiesOf(
  { lines, lengths, tangent, up }: FramedLines,
  kind: ChainKind,
  p: ChainChoice,
  radius: number,
): Made['bodies'] {
  if (lines.position.length === 0) return [];
  const { x, y } = outlineOf(kind);
  const points = lines.position.length / 3;
  const roll = new Float32Array(points);
  for (let c = 0; c < curveCount(lines); c++)
    for (let q = lines.start[c]; q < lines.start[c + 1]; q++)
      roll[q] = valueAt(p.roll, lengths[c] > 0 ? lines.pointData[POINT.along][q] / lengths[c] : 0);
  const section = {
    radius: new Float32Array(points).fill(radius),
    least: leastReach({ x, y }),
    outline: { x, y, tangent, normal: up, roll },
  };
  // links do not fold: those that bend too tight are reported by how they cut each other
  return [{ id: 'chain', curves: lines, section, leastBend: 0 }];
}

/** What represents a prop that is not there. */
const STAND_IN: ChainKind = { ...chainKind('short'), form: 'link' };

function reportShort(
  { lines }: FramedLines,
  { short, cut }: Links,
  pitch: number,
  p: ChainChoice,
  { report }: BuildContext,
): void {
  if (short.length > 0)
    report({
      code: 'chain-short',
      severity: 'warning',
      message: `${short.length === 1 ? 'A line is' : `${short.length} lines are`} shorter than ${lines.closed[short[0]] ? 'a ring of links' : 'one link'} (pitch ${(1000 * pitch).toFixed(1)} mm) and stays empty. Draw a longer line, or make the links smaller.`,
      place: pointOf(lines.position, lines.start[short[0]]),
      size: { value: 0, limit: pitch, kind: 'length' },
      fix: smaller(p, 0.5),
    });
  if (cut)
    report({
      code: 'too-many-elements',
      severity: 'warning',
      message: `More than ${MAX_LINKS.toLocaleString('en')} links: the rest of the line stays empty. Make the links larger.`,
      size: { value: MAX_LINKS, limit: MAX_LINKS, kind: 'count' },
    });
}

/** Smaller links, where their size is free. */
const smaller = (p: ChainChoice, times: number): Fix | undefined =>
  chainKind(p.kind).radius === undefined
    ? { label: 'Make the links smaller', kind: 'set', stage: 'make', parameter: 'radius', value: times * p.radius }
    : undefined;

/** Links of wire that cut each other, where the chain bends most. */
function reportCrowded(
  { stations }: Links,
  kind: ChainKind,
  axes: Axes,
  p: ChainChoice,
  { report }: BuildContext,
): void {
  if (!isWire(kind)) return;
  const worst = crowdedLinks(stations, (n) => axes(n).slice(), linkLine(kind, 8));
  if (!worst || worst.gap > 1 - CONTACT) return;
  report({
    code: 'links-cut',
    severity: 'warning',
    message: 'Links intersect by {value} (limit {limit}) in a tight bend. Smooth the bend, or make the links smaller.',
    place: pointOf(stations.at, worst.link),
    along: stations.along[worst.link],
    size: { value: (1 - worst.gap) * 2 * sizeOf(p), limit: CONTACT * 2 * sizeOf(p), kind: 'length' },
    fix: smaller(p, 0.7),
  });
}

function figuresOf(
  { lines }: FramedLines,
  links: Links,
  kind: ChainKind,
  radius: number,
): Pick<Made, 'measures' | 'tables'> {
  const { stations, scale } = links;
  const counts = new Uint32Array(curveCount(lines));
  for (const c of stations.curve) counts[c]++;
  const pitch = 2 * radius * kind.pitch;
  const beyond = isWire(kind) ? 4 * radius : 0;
  const long = (c: number) => (counts[c] > 0 ? scale[c] * (counts[c] * pitch + (lines.closed[c] ? 0 : beyond)) : 0);
  const rows = [...counts.keys()]
    .filter((c) => counts[c] > 0)
    .map((c) => [c + 1, counts[c], scale[c] * pitch, long(c)]);
  const wire = beyond > 0 ? wireLength(kind) * Math.PI : 0;
  const volume = [...counts.keys()].reduce((sum, c) => sum + counts[c] * wire * (radius * scale[c]) ** 3, 0);
  return {
    measures: [
      { id: 'links', label: 'Links', quantity: 'count', value: stations.id.length },
      {
        id: 'chain-length',
        label: 'Chain length, taut',
        quantity: 'length',
        value: rows.reduce((sum, row) => sum + row[3], 0),
      },
      ...(volume > 0 ? [{ id: 'mass', label: 'Mass in steel', quantity: 'mass' as const, value: STEEL * volume }] : []),
    ],
    tables: [
      {
        id: 'chains',
        label: 'Chains',
        columns: [
          { label: 'Line', quantity: 'count' },
          { label: 'Links', quantity: 'count' },
          { label: 'Pitch', quantity: 'length' },
          { label: 'Length', quantity: 'length' },
        ],
        rows,
      },
    ],
  };
}
