import { machineMemory } from '@kelp/server/machine-memory';
import { InvalidArgumentError, Option } from 'commander';

const MB = 2 ** 20;

/** `--memory`: memory that bakes may take, given in MB, passed on in bytes. */
export const memoryOption = (): Option =>
  new Option('--memory <mb>', 'memory limit for bakes, MB; larger ones are made coarser and reported')
    .argParser(megabytes)
    .default(machineMemory(), 'half of the machine’s memory');

function megabytes(text: string): number {
  const value = Number(text);
  if (!(value >= 1 && value <= 1e7)) throw new InvalidArgumentError('Must be a number of MB from 1 to 10000000.');
  return value * MB;
}
