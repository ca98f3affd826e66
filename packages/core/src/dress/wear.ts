import type { Piece } from '../document/document.js';
import { MAIN_SLOT, newUse } from '../document/edit.js';
import type { Outfit } from '../unit/unit.js';

/** A piece in an outfit of its make unit; what no slot of the outfit is about wears what it is made with. */
export function inOutfit(piece: Piece, { wears }: Outfit): Piece {
  const main = wears[MAIN_SLOT] ? {} : { [MAIN_SLOT]: newUse('dress', 'plain') };
  const worn = Object.entries(wears).map(([slot, { unit, preset }]) => [slot, newUse('dress', unit, preset)]);
  return { ...piece, dress: { ...main, ...Object.fromEntries(worn) } };
}
