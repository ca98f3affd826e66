import type { KelpDocument } from '@kelp/core';

/** Whether both say the same: the server gives a document back as it came. */
export const isSameDocument = (a: unknown, b: KelpDocument): boolean => JSON.stringify(a) === JSON.stringify(b);
