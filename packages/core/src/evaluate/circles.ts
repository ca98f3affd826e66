import type { Piece } from '../document/document.js';
import { referencesOf } from '../document/references.js';

/**
 * Pieces that need each other, each with the number of its circle; pieces that are in none are not in the map.
 * Strongly connected components (Tarjan, SIAM J. Comput. 1(2), 1972), without recursion: a chain may be long.
 */
export function circlesOf(pieces: readonly Piece[]): ReadonlyMap<string, number> {
  const byId = new Map(pieces.map((piece) => [piece.id, piece]));
  const order = new Map<string, number>();
  const low = new Map<string, number>();
  const open: string[] = [];
  const isOpen = new Set<string>();
  const circles = new Map<string, number>();
  const visit = (start: string) => {
    const path: { id: string; next: string[] }[] = [];
    const enter = (id: string) => {
      order.set(id, order.size);
      low.set(id, order.get(id)!);
      open.push(id);
      isOpen.add(id);
      path.push({ id, next: referencesOf(byId.get(id)!).pieces.filter((other) => byId.has(other)) });
    };
    enter(start);
    for (let top = path.at(-1); top; top = path.at(-1)) {
      const { id, next } = top;
      const other = next.pop();
      if (other !== undefined) {
        if (!order.has(other)) enter(other);
        else if (isOpen.has(other)) low.set(id, Math.min(low.get(id)!, order.get(other)!));
        continue;
      }
      path.pop();
      const parent = path.at(-1)?.id;
      if (parent !== undefined) low.set(parent, Math.min(low.get(parent)!, low.get(id)!));
      if (low.get(id) === order.get(id)) close(id);
    }
  };
  const close = (root: string) => {
    const members: string[] = [];
    let id: string;
    do {
      id = open.pop()!;
      isOpen.delete(id);
      members.push(id);
    } while (id !== root);
    if (members.length > 1) for (const member of members) circles.set(member, order.get(root)!);
  };
  for (const piece of pieces) if (!order.has(piece.id) && referencesOf(piece).pieces.length > 0) visit(piece.id);
  return circles;
}
