import {
  anchorOf,
  createHit,
  type DrawnPoint,
  emptyDocument,
  HOME,
  type KelpDocument,
  newPiece,
  type Piece,
  Surface,
} from '../src/index.js';
import { bunnyMesh } from './helpers.js';

/** A project with one piece along free points. */
export function alongPoints(
  points: readonly (readonly [number, number, number])[],
  change: (piece: Piece) => void = () => {},
): { document: KelpDocument; piece: Piece } {
  const document = emptyDocument('Test');
  document.curves.push({
    id: 'line',
    name: 'Line',
    closed: false,
    points: points.map(([x, y, z]) => ({ position: [x, y, z], corner: false, radius: 1 })),
  });
  const piece = newPiece('piece', 'Piece', ['line'], false);
  change(piece);
  document.pieces.push(piece);
  return { document, piece };
}

/** A thin cable drawn over the flank of the scan. */
export function lyingOnBunny(): { document: KelpDocument; piece: Piece } {
  const document = emptyDocument('Test');
  document.props.push({ id: 'bunny', name: 'Bunny', mesh: 'bunny', placement: HOME, visible: true, colour: '#cccccc' });
  const surface = Surface.of(bunnyMesh());
  const hit = createHit();
  const points: DrawnPoint[] = [];
  for (let i = 0; i <= 8; i++)
    if (surface.cast([-0.05 + i * 0.0125, 0.05 + 0.012 * Math.sin(i * 1.4), 1], [0, 0, -1], hit))
      points.push({
        position: [hit.point[0], hit.point[1], hit.point[2]],
        anchor: anchorOf('bunny', hit),
        corner: false,
        radius: 1,
      });
  document.curves.push({ id: 'line', name: 'Line', closed: false, points });
  const piece = newPiece('piece', 'Piece', ['line'], true);
  piece.make.parameters['radius'] = 0.0012;
  document.pieces.push(piece);
  return { document, piece };
}
