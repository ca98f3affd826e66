import {
  emptyDocument,
  evaluatePiece,
  type Material,
  type Mesh,
  mergeMeshes,
  newPiece,
  newUse,
  Surroundings,
} from '@kelp/core';

/** A short bent line with a piece on it, for the pictures of the gallery. Size of the line: about 0.3 m. */
export function sampleMesh(unit: string, preset: string): { mesh: Mesh; material: Material } {
  const bend = [
    [-0.15, 0, 0.05],
    [-0.07, 0.015, -0.03],
    [0.02, 0.03, 0.025],
    [0.09, 0.02, -0.02],
    [0.16, 0.05, 0.01],
  ];
  const document = emptyDocument('Sample');
  document.curves.push({
    id: 'line',
    name: 'Line',
    closed: false,
    points: bend.map(([x, y, z]) => ({ position: [x, y, z], corner: false, radius: 1 })),
  });
  const piece = { ...newPiece('sample', 'Sample', ['line'], false), make: newUse('make', unit, preset) };
  const { parts, materials } = evaluatePiece({ ...document, pieces: [piece] }, piece, new Surroundings(new Map()), '');
  return { mesh: mergeMeshes(parts.map((part) => part.mesh)), material: materials[parts[0].slot] };
}
