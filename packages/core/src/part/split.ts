import { groupsOf } from '../mesh/mesh.js';
import type { Made, Part } from '../unit/carriers.js';
import { slotOf, slotsOf } from './part.js';

/** Parts whose mesh wears several slots become one part a slot: from here on a part wears one. */
export function singleSlots(made: Made): Made {
  if (made.parts.every((part) => slotsOf(part).length === 1)) return made;
  return { ...made, parts: made.parts.flatMap(splitPart) };
}

function splitPart(part: Part): Part[] {
  const slots = slotsOf(part);
  if (part.kind === 'strands' || slots.length === 1) return [{ ...part, slot: slots[0] ?? part.slot }];
  return slots.map((slot, i) => {
    const mesh = groupsOf(part.mesh, (group) => slotOf(part, group) === slot);
    // what of the vertices is left is counted anew
    return {
      ...part,
      ...(part.kind === 'mesh' ? { elements: undefined } : {}),
      id: i === 0 ? part.id : `${part.id} ${slot}`,
      slot,
      mesh,
    };
  });
}
