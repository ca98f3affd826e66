import { type KelpDocument, readyFor } from '@kelp/core';
import levelSets from 'manifold-3d/manifold.wasm?url';

/** Waits for what the pieces of a document need beside the code that is there. */
export const ready = (document: Pick<KelpDocument, 'pieces'>): Promise<void> => readyFor(document, levelSets);
