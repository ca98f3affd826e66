import { DEMOS, manyCorners } from '@kelp/demo';
import { writeArchive } from '@kelp/formats';
import { Argument, Command, InvalidArgumentError } from 'commander';
import { checkOut, writeWhole } from '../out-file.js';
import { print } from '../print.js';

export const demoCommand = (): Command =>
  new Command('demo')
    .description('Write a demo project as an archive.')
    .addArgument(
      new Argument('[name]', 'demo project to write').choices(DEMOS.map(({ id }) => id)).default(DEMOS[0].id),
    )
    .requiredOption('--out <file.kelp>', 'output file')
    .option('--times <count>', 'number of copies side by side, for a large scene (1 to 160)', countOf, 1)
    .action(async (name: string, { out, times }: { out: string; times: number }) => {
      checkOut(out, ['.kelp']);
      const bytes = writeArchive(times === 1 ? await demoNamed(name) : await manyCorners(times));
      writeWhole(out, bytes);
      print(`${out}: ${bytes.length.toLocaleString('en')} bytes`);
    });

const demoNamed = (name: string) => (DEMOS.find(({ id }) => id === name) ?? DEMOS[0]).build();

/** The limits of a project hold 160 corners: 1,920 props of 2,000. */
function countOf(text: string): number {
  const count = Number(text);
  if (!Number.isInteger(count) || count < 1 || count > 160)
    throw new InvalidArgumentError('Must be a whole number from 1 to 160.');
  return count;
}
