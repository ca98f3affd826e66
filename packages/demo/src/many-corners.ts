import {
  curveIdsOf,
  type DrawnCurve,
  findUnit,
  type KelpDocument,
  type ParameterValue,
  type Piece,
  type UnitUse,
} from '@kelp/core';
import type { Project } from '@kelp/formats';
import { demoProject } from './demo-project.js';

/** From corner to corner, metres. */
const APART = { x: 14, z: 10 } as const;

type Place = [number, number, number];

/**
 * The pier corner with its cables `times` times, side by side in a square: every copy with props, lines and pieces of its
 * own, on the same meshes. For trying what a scene of any size costs.
 */
export async function manyCorners(times: number): Promise<Project> {
  const { document: whole, props } = await demoProject();
  // what is strung between things of one corner stays there
  const pieces = whole.pieces.filter(({ make, path }) => make.unit === 'cable' && path.unit !== 'strung');
  const used = new Set(pieces.flatMap(curveIdsOf));
  const document = { ...whole, pieces, curves: whole.curves.filter(({ id }) => used.has(id)) };
  const across = Math.ceil(Math.sqrt(times));
  const out: KelpDocument = { ...document, name: `${times} pier corners`, props: [], curves: [], pieces: [] };
  for (let n = 0; n < times; n++) {
    const copy = new Copy(n, [(n % across) * APART.x, 0, Math.floor(n / across) * APART.z]);
    for (const prop of document.props)
      out.props.push({
        ...prop,
        id: copy.id(prop.id),
        name: copy.name(prop.name),
        placement: { ...prop.placement, position: copy.place(prop.placement.position) },
      });
    out.curves.push(...document.curves.map((curve) => copy.curve(curve)));
    out.pieces.push(...document.pieces.map((piece) => copy.piece(piece)));
  }
  return { document: out, props };
}

class Copy {
  constructor(
    private readonly n: number,
    private readonly by: Place,
  ) {}

  id = (id: string): string => (this.n === 0 || id === '' ? id : `${id}-${this.n + 1}`);
  name = (name: string): string => (this.n === 0 ? name : `${name} ${this.n + 1}`);
  place = (place: readonly number[]): Place => place.map((value, k) => value + this.by[k]) as Place;

  curve(curve: DrawnCurve): DrawnCurve {
    return {
      ...curve,
      id: this.id(curve.id),
      name: this.name(curve.name),
      points: curve.points.map(({ anchor, ...point }) => ({
        ...point,
        position: this.place(point.position),
        ...(anchor ? { anchor: { ...anchor, prop: this.id(anchor.prop) } } : {}),
      })),
    };
  }

  piece(piece: Piece): Piece {
    return {
      ...piece,
      id: this.id(piece.id),
      name: this.name(piece.name),
      path: this.use(piece.path),
      shape: piece.shape.map((use) => this.use(use)),
      make: this.use(piece.make),
    };
  }

  /** The same unit on the copy's own things, at the copy's own place. */
  private use<U extends UnitUse>(use: U): U {
    const parameters = { ...use.parameters };
    for (const [name, parameter] of Object.entries(findUnit(use.unit)?.parameters ?? {})) {
      const value = parameters[name];
      if (parameter.kind === 'prop' || parameter.kind === 'piece') parameters[name] = this.id(value as string);
      if (parameter.kind === 'curves') parameters[name] = (value as string[]).map(this.id) as ParameterValue;
      if (parameter.kind === 'point' && parameter.grip) parameters[name] = this.place(value as unknown as Place);
    }
    return { ...use, parameters };
  }
}
