import { type DrawnPoint, type Mesh, SurfaceStore, Surroundings } from '@kelp/core';
import { PlaneGeometry } from 'three';
import { expect, it } from 'vitest';
import type { PieceBuild } from '../src/evaluation/protocol.js';
import { lengthOf, readoutOf } from '../src/pens/readout.js';

const at = (x: number, y: number, z = 0): DrawnPoint => ({ position: [x, y, z], corner: false, radius: 1 });
const nothing = new Surroundings(new Map());

it('a drawn line is reported its length, height, tightest bend, next neighbour and thickness, in the project’s unit', () => {
  // a quarter of a circle, by points on it: length r·π/2; the curve through them bends a little more at its ends
  const quarter = (radius: number) =>
    Array.from({ length: 13 }, (_, i) => {
      const angle = (Math.PI / 2) * (i / 12);
      return at(radius * Math.cos(angle), radius * Math.sin(angle));
    });
  expect(lengthOf(quarter(1))).toBeCloseTo(Math.PI / 2, 2);
  const bendOf = (radius: number) => {
    const [length, bend] = readoutOf(quarter(radius), 1, nothing, [], 'm');
    expect(Number(length.replace(' m', ''))).toBeCloseTo((Math.PI / 2) * radius, 2);
    return Number(bend.match(/^bend ([\d.]+) m$/)?.[1]);
  };
  expect(bendOf(1)).toBeGreaterThan(0.6);
  expect(bendOf(1)).toBeLessThan(1.01);
  expect(bendOf(2) / bendOf(1)).toBeCloseTo(2, 2);

  const plane = new PlaneGeometry(10, 10);
  const surfaces = new SurfaceStore();
  const position = Float32Array.from(plane.getAttribute('position').array);
  surfaces.add('mesh', { position, index: Uint32Array.from(plane.index!.array) } as Mesh);
  const placement = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 };
  const surroundings = surfaces.surroundings({
    props: [{ id: 'wall', name: '', mesh: 'mesh', placement, visible: true, colour: '#ffffff' } as never],
  });
  const neighbour = { guide: { position: Float64Array.of(2, 0, 0.25, 3, 0, 0.25) } } as unknown as PieceBuild;
  expect(readoutOf([at(0, 0, 0.25), at(1.9, 0, 0.25)], 1.5, surroundings, [neighbour], 'mm')).toEqual([
    '1.90 m',
    '250 mm from the surface',
    'next line 100 mm',
    'thickness × 1.50',
  ]);
});

it('a straight line has no bend, a single point nothing but its length', () => {
  expect(readoutOf([at(0, 0), at(1, 0), at(2, 0)], 1, nothing, [], 'mm')).toEqual(['2.00 m']);
  expect(readoutOf([at(0, 0)], 1, nothing, [], 'in')).toEqual(['0 in']);
  expect(readoutOf([], 1, nothing, [], 'mm')).toEqual(['0 mm']);
});
