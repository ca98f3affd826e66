import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyFix,
  curveLengths,
  evaluatePiece,
  HOME,
  newPiece,
  newUse,
  realMesh,
  Surface,
  Surroundings,
  World,
} from '../src/index.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

// Where a swept section stands about its line, where its top looks, and how it takes corners.

type Place = readonly [number, number, number];

/** A metre of wall square to x, half a metre from the middle. */
const WALL = {
  position: Float32Array.of(0.5, -1, -1, 0.5, 1, -1, 0.5, 1, 1, 0.5, -1, 1),
  index: Uint32Array.of(0, 1, 2, 0, 2, 3),
};

function built(
  points: readonly Place[],
  make: object,
  change: (project: ReturnType<typeof alongPoints>) => void = () => {},
) {
  const project = alongPoints(points, (one) => {
    one.make = newUse('make', 'sweep');
    Object.assign(one.make.parameters, { form: 'box', radius: 0.01, width: 3, rounding: 0, leastBend: 1 }, make);
  });
  change(project);
  const surfaces = new Map(project.document.props.map((prop) => [prop.id, Surface.of(WALL)]));
  const build = evaluatePiece(new World(project.document, new Surroundings(surfaces)), project.piece);
  const [body] = build.made.bodies;
  const { outline } = body.section;
  if (!outline) throw new Error('A box has an outline');
  /** Which way the top looks at a point of the rails. */
  const topAt = (p: number): Place => {
    const [t, n] = [outline.tangent, outline.normal].map((flat) => flat.subarray(3 * p, 3 * p + 3));
    const [cos, sin] = [Math.cos(outline.roll[p]), Math.sin(outline.roll[p])];
    const b = [t[1] * n[2] - t[2] * n[1], t[2] * n[0] - t[0] * n[2], t[0] * n[1] - t[1] * n[0]];
    return [0, 1, 2].map((k) => cos * n[k] + sin * b[k]) as unknown as Place;
  };
  return { ...project, build, body, outline, topAt, rails: build.made.guide };
}

const codesOf = ({ build }: ReturnType<typeof built>) => build.findings.map(({ code }) => code);
const dot = (a: ArrayLike<number>, b: ArrayLike<number>) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const place = (flat: ArrayLike<number>, p: number): Place => [flat[3 * p], flat[3 * p + 1], flat[3 * p + 2]];
const from = (a: Place, b: Place): Place => [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
const unit = (a: Place): Place => a.map((value) => value / Math.hypot(...a)) as unknown as Place;

/** The greatest turn of the top from ring to ring, once the turn of the line itself is taken off. */
function greatestTurn({ rails, outline }: ReturnType<typeof built>): number {
  let most = 0;
  for (let p = 1; p < rails.start[1]; p++) most = Math.max(most, Math.abs(outline.roll[p] - outline.roll[p - 1]));
  return most;
}

describe('the top of a section', () => {
  const coordinate = evenly(-1, 1);
  const line = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 3, maxLength: 7 });

  it('looks up wherever the line is not steep, and never flips', () => {
    fc.assert(
      fc.property(line, (points) => {
        const spread = points.map(([x, y, z], i): Place => [x + 2.2 * i, y, z]);
        const one = built(spread, { facing: 'up' });
        for (let p = 0; p < one.rails.start[1]; p++) {
          const t = place(one.outline.tangent, p);
          if (Math.abs(t[1]) > 0.85) continue;
          const up = unit([-t[1] * t[0], 1 - t[1] * t[1], -t[1] * t[2]]);
          expect(dot(one.topAt(p), up)).toBeGreaterThan(0.9999);
        }
        expect(greatestTurn(one)).toBeLessThan(0.2);
      }),
      { numRuns: 60 },
    );
  });

  it.each([0, 0.003])('turns evenly where the line goes straight up and over (%s aside)', (aside) => {
    const arch = Array.from({ length: 25 }, (_, k): Place => {
      const angle = (2 * Math.PI * k) / 24;
      return [Math.sin(angle), 1 - Math.cos(angle), aside * k];
    });
    const one = built(arch, { facing: 'up' });
    expect(greatestTurn(one)).toBeLessThan(0.12);
    // on top of the loop it is upright again
    const top = Math.floor(one.rails.start[1] / 2);
    expect(one.topAt(top)[1]).toBeGreaterThan(0.99);
  });

  it('comes round to itself on a closed line, which it did not leave', () => {
    const ring: Place[] = [
      [1, 0, 0],
      [0, 0.5, 1],
      [-1, 0, 0],
      [0, -0.5, -1],
    ];
    const one = built(ring, { facing: 'up' }, ({ document }) => {
      document.curves[0].closed = true;
    });
    const { rails } = one;
    expect(rails.closed[0]).toBe(1);
    expect(dot(one.topAt(0), one.topAt(rails.start[1] - 1))).toBeGreaterThan(0.98);
    expect(one.topAt(0)[1]).toBeGreaterThan(0.85);
  });

  it('looks at a place, at another line, and off a prop', () => {
    const points: Place[] = [
      [0, 0, 0],
      [0.5, 0.2, 0],
      [1, 0, 0.3],
    ];
    const sees = (one: ReturnType<typeof built>, wanted: (p: number) => Place) => {
      for (let p = 0; p < one.rails.start[1]; p++) {
        const t = place(one.outline.tangent, p);
        const way = unit(wanted(p));
        const flat = dot(way, t);
        const across = unit(way.map((value, n) => value - flat * t[n]) as unknown as Place);
        expect(dot(one.topAt(p), across)).toBeGreaterThan(0.999);
      }
    };
    const at: Place = [0.5, -3, 1];
    const lamp = built(points, { facing: 'place', facingPlace: at });
    sees(lamp, (p) => from(place(lamp.rails.position, p), at));

    const other = built(points, { facing: 'piece', facingPiece: 'other' }, ({ document }) => {
      const line = document.curves[0];
      document.curves.push({
        ...line,
        id: 'far',
        points: [
          [0, 0, 2],
          [1, 0, 2],
        ].map((position) => ({ ...line.points[0], position: position as [number, number, number] })),
      });
      document.pieces.push(newPiece('other', 'Other', ['far'], false));
    });
    const [length] = curveLengths(other.rails);
    sees(other, (p) => from(place(other.rails.position, p), [other.rails.pointData['along'][p] / length, 0, 2]));

    // what runs beside a wall looks away from it
    const beside = built(
      [
        [0.7, -0.3, 0],
        [0.7, 0, 0.1],
        [0.7, 0.3, 0],
      ],
      { facing: 'prop', facingProp: 'wall' },
      ({ document }) => {
        document.props.push({
          id: 'wall',
          name: 'Wall',
          mesh: 'wall',
          placement: HOME,
          visible: true,
          colour: '#cccccc',
        });
      },
    );
    sees(beside, () => [1, 0, 0]);
  });

  it('that has nothing to look at is reported, and runs along with the line', () => {
    const points: Place[] = [
      [0, 0, 0],
      [0.5, 0.2, 0],
      [1, 0, 0.3],
    ];
    const plain = realMesh(built(points, {}).build.parts[0]);
    for (const make of [{ facing: 'piece' }, { facing: 'prop' }]) {
      const one = built(points, make);
      expect(codesOf(one)).toContain('facing-nothing');
      expect(realMesh(one.build.parts[0]).position).toEqual(plain.position);
    }
    expect(codesOf(built(points, { facing: 'up' }))).not.toContain('facing-nothing');
  });
});

describe('a section beside its line', () => {
  const straight: Place[] = [
    [0, 0, 0],
    [0.5, 0, 0],
    [1, 0, 0],
  ];
  it.each([
    [1, 0, [0, 0.02], [-0.03, 0.03]],
    [-1, 0, [-0.02, 0], [-0.03, 0.03]],
    [0, 1, [-0.01, 0.01], [0, 0.06]],
    [1, -1, [0, 0.02], [-0.06, 0]],
  ])('rise %s, aside %s', (rise, aside, high, wide) => {
    const { build, body } = built(straight, { rise, aside });
    const { position } = realMesh(build.parts[0]);
    for (const [axis, [low, top]] of [
      [1, high],
      [2, wide],
    ] as const) {
      const places = position.filter((_, i) => i % 3 === axis);
      expect(Math.min(...places)).toBeCloseTo(low, 6);
      expect(Math.max(...places)).toBeCloseTo(top, 6);
      // the checks look at the middle of what is there
      expect(body.curves.position[axis]).toBeCloseTo((low + top) / 2, 6);
    }
  });
});

it('has as many cross-cuts as it is reported, evenly, on open lines', () => {
  const bend: Place[] = [
    [0, 0, 0],
    [0.3, 0.2, 0],
    [0.6, 0, 0.2],
    [1, 0.1, 0],
  ];
  for (const inAll of [2, 5, 40]) {
    const { rails } = built(bend, { inAll, twist: 3 });
    expect(rails.start[1]).toBe(inAll);
    const along = [...rails.pointData['along']];
    const steps = along.slice(1).map((s, i) => s - along[i]);
    expect(Math.max(...steps) / Math.min(...steps)).toBeCloseTo(1, 2);
  }
});

describe('corners of straight legs', () => {
  const legs: Place[] = [
    [0, 0, 0],
    [0, 0, 1],
    [1, 0, 1],
    [1, 1, 1],
  ];
  const sharp = ({ document }: ReturnType<typeof alongPoints>) => {
    for (const point of document.curves[0].points) point.corner = true;
  };
  const radius = 2.5 * 0.02;

  it('are bent round true arcs: every ring of a bend stands on its circle, the length is that of legs and arcs', () => {
    const { rails, build } = built(legs, { corners: 'arc', bendRadius: 2.5 }, sharp);
    expect(build.findings).toEqual([]);
    // two quarter bends: each takes its radius of two legs and gives a quarter of a circle
    expect(curveLengths(rails)[0]).toBeCloseTo(3 - 4 * radius + Math.PI * radius, 3);
    let bent = 0;
    for (let p = 0; p < rails.start[1]; p++) {
      const [x, y, z] = place(rails.position, p);
      if (x > radius || z < 1 - radius || y > 0) continue;
      expect(Math.hypot(x - radius, z - 1 + radius)).toBeCloseTo(radius, 5);
      bent++;
    }
    expect(bent).toBeGreaterThan(10);
  });

  it('are stepped in even mitres round that arc', () => {
    const { outline, rails } = built(legs, { corners: 'cuts', cornerCuts: 3, bendRadius: 2.5, cuts: 0 }, sharp);
    const corner = rails.pointData['corner'];
    // both ends are marked as drawn
    expect(corner.reduce((sum, one) => sum + one, 0) - 2).toBe(6);
    // its middle stretches touch the arc: three mitres round a quarter circle
    const side = 2 * radius * Math.tan(Math.PI / 12);
    expect(curveLengths(rails)[0]).toBeCloseTo(3 - 4 * radius + 2 * 3 * side, 4);
    expect(outline.roll.every(Number.isFinite)).toBe(true);
  });

  it('of a closed line bend at its seam too', () => {
    const square: Place[] = [
      [0, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
      [0, 0, 1],
    ];
    const { rails } = built(square, { corners: 'arc', bendRadius: 5 }, (project) => {
      sharp(project);
      project.document.curves[0].closed = true;
    });
    expect(curveLengths(rails)[0]).toBeCloseTo(4 - 8 * 0.1 + 2 * Math.PI * 0.1, 3);
    expect(rails.closed[0]).toBe(1);
  });

  it('with too short a leg bend as much as it allows, and tell it with what fits', () => {
    const short: Place[] = [
      [0, 0, 0],
      [0, 0, 1],
      [0.06, 0, 1],
      [0.06, 1, 1],
    ];
    const one = built(short, { corners: 'arc', bendRadius: 2.5 }, sharp);
    const finding = one.build.findings.find(({ code }) => code === 'bend-short');
    expect(finding?.size?.value).toBeCloseTo(0.03, 3);
    expect(finding?.size?.limit).toBeCloseTo(radius, 6);
    expect(realMesh(one.build.parts[0]).position.every(Number.isFinite)).toBe(true);
    if (!finding?.fix) throw new Error('It has a fix');
    const mended = applyFix(one.document, one.piece.id, finding.fix);
    const again = evaluatePiece(new World(mended, new Surroundings(new Map())), mended.pieces[0]);
    expect(again.findings.map(({ code }) => code)).not.toContain('bend-short');
  });
});
