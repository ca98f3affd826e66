import { type CurveSet, POINT } from '../curve/curve-set.js';
import type { Piece } from '../document/document.js';
import { curveIdsOf } from '../document/edit.js';
import { hashText } from '../numeric/random.js';
import type { Fix } from '../unit/finding.js';
import type { World } from './world.js';

/** A drawn corner within reach of the pinch is its cause. */
export function cornerFix(
  piece: Piece,
  rails: CurveSet,
  world: World,
  c: number,
  p: number,
  reach: number,
): Fix | undefined {
  const along = rails.pointData[POINT.along];
  const source = rails.pointData[POINT.source];
  const corner = rails.pointData[POINT.corner];
  const ids = curveIdsOf(piece);
  const curve = ids.find((id) => hashText(id) === rails.id[c]);
  if (!curve || !source || !corner || !world.curve(curve)) return undefined;
  for (let q = rails.start[c]; q < rails.start[c + 1]; q++)
    if (corner[q] && source[q] >= 0 && Math.abs(along[q] - along[p]) <= 2 * reach)
      return { label: 'Smooth the corner', kind: 'smooth-point', curve, point: source[q] };
  return undefined;
}

/** Smoothing over more thicknesses than this makes no difference that an eye could see. */
const MAX_SMOOTHING = 400;
const MAX_EASE = 60;

/**
 * Evens the bend out over more length than before. A line that lies on something is smoothed before it is laid there;
 * what bends are left then come from the surface, and are eased.
 */
export function smoothFix(piece: Piece): Fix | undefined {
  const smooth = piece.shape.findLastIndex((use) => use.unit === 'smooth' && use.enabled);
  const lying = piece.shape.findLastIndex(
    (use) => use.unit === 'cling' && use.enabled && use.parameters['mode'] === 'on',
  );
  const grown = (index: number, parameter: string, most: number, label: string): Fix | undefined => {
    const value = Math.max(1, Number(piece.shape[index].parameters[parameter])) * 1.6;
    return value > most ? undefined : { label, kind: 'set-shape', index, parameter, value: +value.toPrecision(3) };
  };
  if (smooth < 0)
    return {
      label: 'Smooth the line',
      kind: 'add-shape',
      index: lying < 0 ? undefined : lying,
      unit: 'smooth',
      parameters: { over: 3 },
    };
  const over = Number(piece.shape[smooth].parameters['over']);
  const ease = lying < 0 ? Infinity : Number(piece.shape[lying].parameters['ease']);
  if (ease < over)
    return (
      grown(lying, 'ease', MAX_EASE, 'Smooth it over the surface') ??
      grown(smooth, 'over', MAX_SMOOTHING, 'Increase the smoothing')
    );
  return grown(smooth, 'over', MAX_SMOOTHING, 'Increase the smoothing');
}
