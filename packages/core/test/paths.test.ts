import { SphereGeometry, TorusGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { bendRadii } from '../src/curve/bend.js';
import {
  type CurveSet,
  curveCount,
  curveLengths,
  emptyDocument,
  evaluatePiece,
  HOME,
  newPiece,
  newUse,
  type Piece,
  Surface,
  Surroundings,
  topologyOf,
  World,
} from '../src/index.js';
import { contoursOf } from '../src/mesh/contours.js';
import { chainEdges, edgesOf } from '../src/mesh/edges.js';
import { bunnyMesh } from './helpers.js';
import { lyingOnBunny } from './projects.js';
import { build } from './units.js';

/** Rounded, so that the seam, where sin 2π is not quite 0, is one place. */
const meshOf = (geometry: SphereGeometry | TorusGeometry) => ({
  position: Float32Array.from(geometry.attributes['position'].array, (value) => Math.round(value * 1e6) / 1e6),
  index: Uint32Array.from(geometry.index?.array ?? []),
});
const pointOf = ({ position }: CurveSet, p: number) => [...position.subarray(3 * p, 3 * p + 3)];

describe('helix', () => {
  it('has the length, curvature and torsion of the closed forms (any text on curves, e.g. do Carmo, Differential Geometry, 1-5)', () => {
    const [radius, height, turns] = [0.3, 0.9, 4];
    const line = build('path', 'helix', { radius, height, turns, at: [2, 1, -3], axis: 'x' });
    const b = height / (2 * Math.PI * turns);
    expect(curveLengths(line)[0]).toBeCloseTo(2 * Math.PI * turns * Math.hypot(radius, b), 4);
    const bends = bendRadii(line, 0.05);
    const middle = Math.floor(bends.length / 2);
    // radius of curvature (r² + b²)/r
    expect(bends[middle]).toBeCloseTo((radius ** 2 + b ** 2) / radius, 3);
    // torsion from three derivatives at the middle, b/(r² + b²), positive for the right hand
    const at = (k: number) => pointOf(line, middle + k);
    const h = curveLengths(line)[0] / (line.position.length / 3 - 1);
    const d = [0, 1, 2].map((n) => {
      const [m2, m1, z, p1, p2] = [-2, -1, 0, 1, 2].map((k) => at(k)[n]);
      return [(p1 - m1) / (2 * h), (p1 - 2 * z + m1) / h ** 2, (p2 - 2 * p1 + 2 * m1 - m2) / (2 * h ** 3)];
    });
    const [x1, x2, x3] = [0, 1, 2].map((order) => d.map((row) => row[order]));
    const cross = [x1[1] * x2[2] - x1[2] * x2[1], x1[2] * x2[0] - x1[0] * x2[2], x1[0] * x2[1] - x1[1] * x2[0]];
    const dot = cross[0] * x3[0] + cross[1] * x3[1] + cross[2] * x3[2];
    expect(dot / (cross[0] ** 2 + cross[1] ** 2 + cross[2] ** 2)).toBeCloseTo(b / (radius ** 2 + b ** 2), 1);
  });

  it('starts lie evenly round the axis, a taper ends at its radius, no size is reported', () => {
    const line = build('path', 'helix', { starts: 4, taper: 0.5, radius: 0.4, turns: 3 });
    expect(curveCount(line)).toBe(4);
    expect(new Set(line.id).size).toBe(4);
    for (let c = 0; c < 4; c++) {
      const [x, , z] = pointOf(line, line.start[c]);
      expect(Math.hypot(x, z)).toBeCloseTo(0.4, 9);
      const [ex, , ez] = pointOf(line, line.start[c + 1] - 1);
      expect(Math.hypot(ex, ez)).toBeCloseTo(0.2, 9);
    }
    const reported: string[] = [];
    expect(curveCount(build('path', 'helix', { radius: 0, height: 0 }, { reported }))).toBe(0);
    expect(reported).toEqual(['curve-short']);
  });
});

describe('contours', () => {
  it('of a sphere are circles of √(R² − h²), of a torus pairs of R ± √(r² − h²) (plane sections, any geometry text)', () => {
    const sphere = meshOf(new SphereGeometry(1, 192, 96));
    const perimeter = ({ position: p }: { position: Float64Array }) => {
      let sum = 0;
      for (let i = 0; i < p.length; i += 3) {
        const j = (i + 3) % p.length;
        sum += Math.hypot(p[j] - p[i], p[j + 1] - p[i + 1], p[j + 2] - p[i + 2]);
      }
      return sum;
    };
    const slices = contoursOf(sphere, [0, 1, 0], -0.9, 0.3, 7);
    expect(slices.map(({ level, closed }) => [level, closed])).toEqual([0, 1, 2, 3, 4, 5, 6].map((k) => [k, true]));
    for (const slice of slices) {
      const h = -0.9 + 0.3 * slice.level;
      expect(perimeter(slice) / (2 * Math.PI * Math.sqrt(1 - h * h))).toBeCloseTo(1, 2);
      // outward is outward
      for (let i = 0; i < slice.position.length; i += 3)
        expect(slice.outward[i] * slice.position[i] + slice.outward[i + 2] * slice.position[i + 2]).toBeGreaterThan(0);
    }
    const torus = meshOf(new TorusGeometry(1, 0.25, 64, 256));
    const pairs = contoursOf(torus, [0, 0, 1], -0.2, 0.2, 3);
    expect(pairs).toHaveLength(6);
    for (const slice of pairs) {
      const h = -0.2 + 0.2 * slice.level;
      const radius = perimeter(slice) / (2 * Math.PI);
      const d = Math.sqrt(0.0625 - h * h);
      expect(Math.min(Math.abs(radius - 1 - d), Math.abs(radius - 1 + d))).toBeLessThan(4e-3);
    }
  });

  it('stand off the surface and follow the prop where it is; slices beyond it are reported', () => {
    const surface = Surface.of(meshOf(new SphereGeometry(1, 128, 64)), { ...HOME, position: [5, 2, 0], scale: 0.5 });
    const surroundings = new Surroundings(new Map([['ball', surface]]));
    const line = build('path', 'contours', { spacing: 0.3, first: 0.25, off: 0.1 }, { surroundings });
    expect(curveCount(line)).toBe(3);
    for (let p = line.start[1]; p < line.start[2]; p++) {
      const [x, y, z] = pointOf(line, p);
      expect(y).toBeCloseTo(2.05, 6);
      expect(Math.hypot(x - 5, z)).toBeCloseTo(0.6, 2);
    }
    const reported: string[] = [];
    build('path', 'contours', { first: 3 }, { surroundings, reported });
    build('path', 'contours', { prop: 'gone' }, { surroundings, reported });
    expect(reported).toEqual(['no-slices', 'prop-missing']);
  });
});

describe('edges', () => {
  it('rims of an open scan are as many as its Euler characteristic says: loops = 2·shells − χ without handles', () => {
    const mesh = bunnyMesh();
    // two patches cut out, far apart
    const cut = (keep: (face: number) => boolean) =>
      mesh.index.filter((_, i) => keep(Math.floor(i / 3)) || mesh.index.length === 0);
    const open = { position: mesh.position, index: cut((face) => face > 40 && (face < 3000 || face > 3002)) };
    const found = edgesOf(open);
    const rims = [...Array(found.ends.length / 2).keys()].filter((e) => found.faces[2 * e + 1] === -1);
    const loops = chainEdges(found.ends, rims);
    const { euler, shells } = topologyOf(open);
    // where two holes meet in one vertex the chain is cut there: join the runs again for the count
    expect(loops.every(({ closed }) => closed)).toBe(true);
    expect(loops.length).toBe(2 * shells - euler);
    expect(loops.reduce((sum, { places }) => sum + places.length, 0)).toBe(rims.length);
  });

  it('the sharp edges of a box are its twelve, each a straight line of its own length, where the box stands', () => {
    const cube = {
      position: Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 1, 1, 0, 1, 1, 1, 1, 0, 1, 1),
      index: Uint32Array.of(
        0,
        2,
        1,
        0,
        3,
        2,
        4,
        5,
        6,
        4,
        6,
        7,
        0,
        1,
        5,
        0,
        5,
        4,
        2,
        3,
        7,
        2,
        7,
        6,
        1,
        2,
        6,
        1,
        6,
        5,
        0,
        4,
        7,
        0,
        7,
        3,
      ),
    };
    const surface = Surface.of(cube, { position: [10, 0, 0], rotation: [0, 0, 0, 1], scale: 2 });
    const surroundings = new Surroundings(new Map([['box', surface]]));
    const line = build('path', 'edges', {}, { surroundings });
    expect(curveCount(line)).toBe(12);
    for (const length of curveLengths(line)) expect(length).toBeCloseTo(2, 6);
    for (let i = 0; i < line.position.length; i += 3) expect(line.position[i]).toBeGreaterThanOrEqual(10);
    const reported: string[] = [];
    expect(curveCount(build('path', 'edges', { chosen: 2 }, { surroundings, reported }))).toBe(1);
    expect(curveCount(build('path', 'edges', { which: 'open' }, { surroundings, reported }))).toBe(0);
    expect(reported).toEqual(['no-edges']);
  });
});

describe('a piece that follows another', () => {
  const following = (change: (pieces: Piece[]) => void) => {
    const document = emptyDocument('Test');
    const lead: Piece = { ...newPiece('lead', 'Lead', [], false), path: newUse('path', 'helix') };
    const rope: Piece = { ...newPiece('rope', 'Rope', [], false), path: newUse('path', 'carried') };
    rope.path.parameters['piece'] = 'lead';
    document.pieces.push(lead, rope);
    change(document.pieces);
    const all = new Surroundings(new Map());
    return { document, of: (k: number) => evaluatePiece(new World(document, all), document.pieces[k]) };
  };

  it('runs along its line and changes with it', () => {
    const { document, of } = following(() => {});
    expect(of(1).measures.length).toBeCloseTo(of(0).measures.length, 3);
    const before = of(1).measures.length;
    document.pieces[0].path.parameters['turns'] = 9;
    expect(of(1).measures.length).toBeGreaterThan(1.5 * before);
  });

  it('two that follow each other, and one whose lead is gone, are reported and never loop', () => {
    const round = following(([lead]) => {
      lead.path = newUse('path', 'carried');
      lead.path.parameters['piece'] = 'rope';
    });
    expect(round.of(0).findings.map(({ code }) => code)).toContain('carrier-missing');
    const gone = following(([, rope]) => {
      rope.path.parameters['piece'] = 'nobody';
    });
    expect(gone.of(1).findings.map(({ code }) => code)).toEqual(['carrier-missing']);
  });
});

it('points held on a deleted prop stay where they were, and are reported with their place', () => {
  const { document, piece } = lyingOnBunny();
  document.props.length = 0;
  const { findings, measures } = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  expect(measures.length).toBeGreaterThan(0.05);
  const lost = findings.find(({ code }) => code === 'anchor-lost');
  expect(lost?.place).toEqual(document.curves[0].points[0].position);
});

it('imported curves are laid flat, turned, scaled and put in place', () => {
  const points = {
    position: Float64Array.of(0, 0, 0, 1, 2, 0),
    corner: new Uint8Array(2),
    radius: new Float32Array([1, 1]),
  };
  const curves = new Map([['a', { ...points, closed: false, id: 1 }]]);
  const parameters = { curves: ['a'], lay: 'flat', size: 3, at: [1, 1, 1], turn: Math.PI / 2 };
  const line = build('path', 'imported', parameters, { curves });
  const last = pointOf(line, line.position.length / 3 - 1);
  // (1, 2) on the sheet → (3, 0, −6) flat → turned a quarter about the vertical → (−6, 0, −3)
  [-5, 1, -2].forEach((value, n) => {
    expect(last[n]).toBeCloseTo(value, 9);
  });
});
