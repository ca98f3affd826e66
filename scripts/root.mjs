import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Folder of the project. */
export const root = dirname(dirname(fileURLToPath(import.meta.url)));
