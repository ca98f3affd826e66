import type { KelpDocument, UnitUse } from '../document/document.js';
import { loadLevelSets } from '../mesh/level-set.js';
import { knownUnit } from '../unit/registry.js';

/**
 * Waits for what the pieces of a document need beside the code that is there: call it before they are computed. What
 * cannot be loaded is reported by the units that need it.
 * @param file where the compiled part is, when not beside its own code
 */
export async function readyFor({ pieces }: Pick<KelpDocument, 'pieces'>, file?: string): Promise<void> {
  if (pieces.some(({ make }) => needs(make))) await loadLevelSets(file).catch(() => {});
}

const needs = ({ unit, parameters }: UnitUse): boolean =>
  knownUnit('make', unit)?.needsLevelSets?.(parameters) === true;
