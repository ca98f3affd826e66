import { lighter, type Material, type Part, realMesh } from '@kelp/core';
import type { Sitter } from './photograph.js';

/** More triangles than these are not seen in a small picture. */
const MAX_TRIANGLES = 300_000;

/** What was made of a piece, as a picture takes it. */
export const sittersOf = (
  { parts, materials }: { parts: readonly Part[]; materials: Record<string, Material> },
  most = MAX_TRIANGLES,
): Sitter[] => parts.map((part) => ({ mesh: realMesh(lighter(part, most)), material: materials[part.slot] }));
