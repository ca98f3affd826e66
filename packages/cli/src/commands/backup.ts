import { Command } from 'commander';
import { checkOut } from '../out-file.js';
import { print, printJson } from '../print.js';

interface Flags {
  data: string;
  json?: boolean;
}

export const backupCommand = (): Command =>
  new Command('backup')
    .description('Copy the database while it runs, and check the copy. Finished bakes are not included.')
    .requiredOption('--out <file.sqlite>', 'where to write the copy')
    .option('--data <dir>', 'folder of the database', '.kelp-data')
    .option('--json', 'print the contents as one JSON value')
    .action(async ({ out, data, json }: Flags & { out: string }) => {
      checkOut(out, ['.sqlite']);
      // only these commands wait for the server's packages
      const { backupDatabase } = await import('@kelp/server');
      const content = await backupDatabase(data, out);
      if (json) printJson(content);
      else print(`${out}: ${content.projects} projects in ${content.revisions} revisions, ${content.files} files`);
    });

export const restoreCommand = (): Command =>
  new Command('restore')
    .description('Replace the database by a backup; the current one is kept beside it. Stop Kelp first.')
    .argument('<file>', 'a backup written by kelp backup')
    .option('--data <dir>', 'folder of the database', '.kelp-data')
    .option('--json', 'print the contents as one JSON value')
    .action(async (file: string, { data, json }: Flags) => {
      const { restoreDatabase } = await import('@kelp/server');
      const { content, before } = await restoreDatabase(file, data);
      if (json) return printJson({ ...content, before });
      print(
        `${content.projects} projects in ${content.revisions} revisions, ${content.files} files restored to ${data}`,
      );
      if (before) print(`The previous database is in ${before}`);
    });
