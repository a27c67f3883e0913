import { Command } from 'commander';
import { exportCommand } from './commands/export.js';
import { generateCommand } from './commands/generate.js';
import { importCommand } from './commands/import.js';
import { initCommand } from './commands/init.js';
import { serveCommand } from './commands/serve.js';
import { EXIT, failWith } from './exit.js';

/** Commands do not take their parent's way of failing over by themselves. */
function throwing(command: Command): Command {
  for (const part of command.commands) throwing(part);
  return command.exitOverride();
}

const program = new Command('fuller')
  .description('Music scheduling for radio: library, clocks, rules, logs, hand-over.')
  .exitOverride()
  .configureOutput({ writeErr: (text) => process.stderr.write(text) })
  .addHelpText(
    'after',
    '\nExit codes: 0 done, 1 unexpected, 2 wrong use or bad input, 3 open slots left, 4 check failed.',
  );

for (const command of [serveCommand(), initCommand(), importCommand(), generateCommand(), exportCommand()]) {
  program.addCommand(throwing(command));
}

try {
  await program.parseAsync();
} catch (error) {
  failWith(error, process.argv.includes('--json'));
}
process.exitCode ??= EXIT.done;
