import { totalmem } from 'node:os';

/** What a bake may take where nobody says otherwise, bytes: half of what the machine has. */
export const machineMemory = (): number => totalmem() / 2;
