import { writeFileSync } from 'node:fs';
import { demoProject } from '@kelp/demo';
import { writeArchive } from '@kelp/formats';
import { Command } from 'commander';
import { print } from '../print.js';

export const demoCommand = (): Command =>
  new Command('demo')
    .description('Write the demo project as an archive.')
    .requiredOption('--out <file.kelp>', 'where to write it')
    .action(async ({ out }: { out: string }) => {
      const bytes = writeArchive(await demoProject());
      writeFileSync(out, bytes);
      print(`${out}: ${bytes.length.toLocaleString('en')} bytes`);
    });
