import { Command, CommanderError } from 'commander';
import { backupCommand, restoreCommand } from './commands/backup.js';
import { bakeCommand } from './commands/bake.js';
import { checkCommand } from './commands/check.js';
import { convertCommand } from './commands/convert.js';
import { demoCommand } from './commands/demo.js';
import { listCommand } from './commands/list.js';
import { serveCommand } from './commands/serve.js';
import { watchCommand } from './commands/watch.js';
import { EXIT, tellError } from './exit.js';
import { printJson } from './print.js';

// a reader that closes the pipe early (head, less) is no failure
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));

const program = new Command('kelp')
  .description('Sweep profiles along curves: cables, pipes, ropes and other long thin things, baked to clean meshes.')
  .version('0.1.0')
  .showHelpAfterError('Run with --help for usage.')
  .exitOverride();
for (const command of [
  serveCommand(),
  demoCommand(),
  bakeCommand(),
  watchCommand(),
  convertCommand(),
  checkCommand(),
  listCommand(),
  backupCommand(),
  restoreCommand(),
])
  program.addCommand(command.exitOverride());

const json = process.argv.includes('--json');
try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof CommanderError)) process.exitCode = tellError(error, json);
  else if (error.exitCode === 0) process.exitCode = EXIT.done;
  else {
    // it has said so on standard error already
    if (json) printJson({ error: { code: 'USAGE', message: error.message, issues: [] } });
    process.exitCode = EXIT.usage;
  }
}
