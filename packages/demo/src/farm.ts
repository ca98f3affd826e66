import {
  anchorOf,
  createHit,
  type DrawnCurve,
  type DrawnPoint,
  type KelpDocument,
  newPiece,
  newUse,
  type ParameterValues,
  type Piece,
  type ShapeUse,
  type Surface,
  type UnitUse,
} from '@kelp/core';

type Vec = readonly [number, number, number];

/** Puts curves and pieces into the document. */
export class Farm {
  private readonly hit = createHit();

  constructor(
    readonly document: KelpDocument,
    private readonly surfaces: ReadonlyMap<string, Surface>,
  ) {}

  /** A point held on the prop, where the plumb line through (x, z) meets its top. */
  on(prop: string, x: number, z: number): DrawnPoint {
    const surface = this.surfaces.get(prop);
    // a plumb line may fall through the gap between two planks: then the next one is taken
    const found = [0, 0.012].some((shift) => surface?.cast([x + shift, 50, z + shift], [0, -1, 0], this.hit));
    if (!found) throw new Error(`Nothing of ${prop} below ${x}, ${z}`);
    return {
      position: [...this.hit.point] as DrawnPoint['position'],
      anchor: anchorOf(prop, this.hit),
      corner: false,
      radius: 1,
    };
  }

  /** A point held at the place of the prop nearest to (x, y, z). */
  near(prop: string, [x, y, z]: Vec, height = 0): DrawnPoint {
    const surface = this.surfaces.get(prop);
    if (!surface?.closest(x, y, z, this.hit)) throw new Error(`There is no ${prop}`);
    const position = [0, 1, 2].map((k) => this.hit.point[k] + height * this.hit.normal[k]) as DrawnPoint['position'];
    return { position, anchor: anchorOf(prop, this.hit, height), corner: false, radius: 1 };
  }

  /** A piece along a drawn line. */
  piece(name: string, points: DrawnPoint[], shape: ShapeUse[], make: ParameterValues, dress: ParameterValues): void {
    const curve: DrawnCurve = {
      id: `${idOf(name)}-line`,
      name: /line$/.test(name) ? name : `${name} line`,
      closed: false,
      points,
    };
    this.document.curves.push(curve);
    const path = newUse('path', 'drawn');
    this.along(name, { ...path, parameters: { curves: [curve.id] } }, shape, make, dress);
  }

  /** A piece along a drawn line, of any make. */
  made(name: string, points: DrawnPoint[], shape: ShapeUse[], make: UnitUse, dress: ParameterValues): void {
    this.piece(name, points, shape, {}, dress);
    const piece = this.document.pieces[this.document.pieces.length - 1];
    piece.make = make;
  }

  /** A piece along several drawn lines, each of its own points. */
  many(name: string, lines: readonly DrawnPoint[][], closed: boolean, make: UnitUse, dress: ParameterValues): void {
    const ids = lines.map((points, k) => {
      const id = `${idOf(name)}-line-${k + 1}`;
      this.document.curves.push({ id, name: `${name} ${k + 1}`, closed, points });
      return id;
    });
    const path = newUse('path', 'drawn');
    this.along(name, { ...path, parameters: { curves: ids } }, [], {}, dress);
    this.document.pieces[this.document.pieces.length - 1].make = make;
  }

  /** A piece along any path. */
  along(name: string, path: UnitUse, shape: ShapeUse[], make: ParameterValues, dress: ParameterValues): void {
    const piece: Piece = { ...newPiece(idOf(name), name, [], false), path, shape };
    piece.make = newUse(
      'make',
      'cable',
      make['section'] === 'polygon' ? 'ribbed-hose' : make['section'] === 'box' ? 'flat-strap' : 'plain-cable',
    );
    Object.assign(piece.make.parameters, make);
    if ('pattern' in dress) piece.dress['main'] = newUse('dress', 'patterned');
    Object.assign((piece.dress['main'] as UnitUse).parameters, dress);
    this.document.pieces.push(piece);
  }
}

const idOf = (name: string): string => name.toLowerCase().replaceAll(/\W+/g, '-');
/** A point that is free. */
export const free = (x: number, y: number, z: number): DrawnPoint => ({
  position: [x, y, z],
  corner: false,
  radius: 1,
});
