import type { CurveSet } from '../../curve/curve-set.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { PlacedPart } from '../../unit/carriers.js';
import { clampMesh, footMesh, rodMesh } from './fittings.js';
import { footing } from './footing.js';
import { placesAt, type Stand, standsOf } from './places.js';
import type { Station } from './stations.js';

/** What brackets are fastened to a prop with, and how. */
export interface Bracketed {
  parts: PlacedPart[];
  /** Brackets with nothing near enough to be fastened to. */
  free: Stand[];
}

/**
 * Brackets at stations of lines: a clamp about what runs there, a rod to what is nearest, a plate on it.
 * @param rails lines that say how long they are
 * @param radius of what runs there, metres
 * @param within how far from its middle a prop may be
 */
export function bracketsAt(
  rails: CurveSet,
  stations: readonly Station[],
  surroundings: Surroundings,
  { radius, within, sides, slot }: { radius: number; within: number; sides: number; slot: string },
): Bracketed {
  const { clamps, rods, feet, free } = footing(standsOf({ rails }, stations), surroundings, radius, within);
  const shapes = [
    { id: 'clamps', name: 'Clamps', mesh: () => clampMesh(sides), all: clamps },
    { id: 'rods', name: 'Rods', mesh: rodMesh, all: rods },
    { id: 'feet', name: 'Feet', mesh: footMesh, all: feet },
  ];
  const parts = shapes.flatMap(({ id, name, mesh, all }): PlacedPart[] =>
    all.length > 0 ? [{ kind: 'placed', id, name, slot, mesh: mesh(), places: placesAt({ rails }, all) }] : [],
  );
  return { parts, free };
}
