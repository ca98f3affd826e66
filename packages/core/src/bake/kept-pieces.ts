import type { Outlined } from '../evaluate/crossings.js';
import { meshBytes } from '../mesh/mesh.js';
import type {
  BakedLines,
  BakedMesh,
  BakedMoving,
  BakedPlaced,
  BakedShaping,
  BakedStrands,
  PieceReport,
} from './bake.js';

/** Something of a piece that was handed on, and to which taker. */
export type Handed =
  | { to: 'mesh'; what: BakedMesh }
  | { to: 'placed'; what: BakedPlaced }
  | { to: 'moving'; what: BakedMoving }
  | { to: 'shapes'; what: BakedShaping }
  | { to: 'strands'; what: BakedStrands }
  | { to: 'lines'; what: BakedLines };

/** A piece as it was baked: what was handed on, its own findings, and how others meet it. */
export interface KeptPiece {
  handed: readonly Handed[];
  report: PieceReport;
  outlined: Outlined;
}

/** Pieces as they were baked, for the next bake of what has not changed; those that were not asked for longest go first. */
export class KeptPieces {
  private readonly pieces = new Map<string, { source: string; piece: KeptPiece; bytes: number }>();
  private bytes = 0;

  /** @param most memory that they may take, bytes */
  constructor(private readonly most: number) {}

  /** @param source all that it is made from; undefined where another one is kept, or none */
  get(id: string, source: string): KeptPiece | undefined {
    const found = this.pieces.get(id);
    if (found?.source !== source) return undefined;
    this.pieces.delete(id);
    this.pieces.set(id, found);
    return found.piece;
  }

  keep(id: string, source: string, piece: KeptPiece): void {
    this.drop(id);
    const bytes = 2 * source.length + piece.handed.reduce((sum, one) => sum + bytesOf(one), 0);
    if (bytes > this.most) return;
    for (const [oldest] of this.pieces) {
      if (this.bytes + bytes <= this.most) break;
      this.drop(oldest);
    }
    this.pieces.set(id, { source, piece, bytes });
    this.bytes += bytes;
  }

  private drop(id: string): void {
    this.bytes -= this.pieces.get(id)?.bytes ?? 0;
    this.pieces.delete(id);
  }
}

function bytesOf({ to, what }: Handed): number {
  switch (to) {
    case 'mesh':
    case 'moving':
      return meshBytes(what.mesh);
    case 'placed':
      return meshBytes(what.mesh) + what.places.matrix.byteLength;
    case 'shapes':
      return meshBytes(what.mesh) + what.targets.reduce((sum, { position }) => sum + 2 * position.byteLength, 0);
    case 'strands':
      return what.strands.width.byteLength + 2 * what.strands.curves.position.byteLength;
    case 'lines':
      return what.curves.position.byteLength;
  }
}
