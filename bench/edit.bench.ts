import {
  copyMesh,
  createCache,
  emptyDocument,
  evaluatePiece,
  newPiece,
  realMesh,
  Surroundings,
  World,
  withParameter,
  withPiece,
} from '@kelp/core';
import type { Result } from './measure.js';

/** A changed twist on a cable of 50,000 vertices: from the message to the buffers that the worker would move to the page. */
export function editBench(): Result[] {
  let document = emptyDocument('Bench');
  document.curves.push({
    id: 'line',
    name: 'Line',
    closed: false,
    points: Array.from({ length: 40 }, (_, i) => ({
      position: [i * 0.25, 0.2 * Math.sin(i), 0.2 * Math.cos(i * 0.7)],
      corner: false,
      radius: 1,
    })),
  });
  const piece = newPiece('piece', 'Piece', ['line'], false);
  Object.assign(piece.make.parameters, { section: 'polygon', sides: 12, cuts: 205, bendStep: 0.3 });
  document = { ...document, pieces: [piece] };
  const cache = createCache();
  const nowhere = new Surroundings(new Map());
  let vertices = 0;
  const change = (twist: number) => {
    const message = structuredClone(
      withPiece(document, 'piece', (now) => withParameter(now, { stage: 'make' }, 'twist', twist)),
    );
    const started = performance.now();
    const build = evaluatePiece(new World(message, nowhere, cache), message.pieces[0]);
    const parts = build.parts.map((part) => copyMesh(realMesh(part)));
    vertices = parts[0].position.length / 3;
    return performance.now() - started;
  };
  for (let i = 0; i < 10; i++) change(1 + i * 0.01);
  const times = Array.from({ length: 30 }, (_, i) => change(2 + i * 0.01)).sort((a, b) => a - b);
  return [
    {
      name: `a changed twist on ${vertices.toLocaleString('en')} vertices, milliseconds in the worker`,
      value: times[15],
      goal: 16,
      better: 'less',
    },
  ];
}
