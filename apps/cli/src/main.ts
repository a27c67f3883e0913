import { Command } from 'commander';
import { checkCommand } from './commands/check.js';
import { solveCommand } from './commands/solve.js';
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

// The bare engine and the check of a file start at once: they need neither server nor database.
const stationCommands =
  process.argv[2] === 'solve' || process.argv[2] === 'check'
    ? []
    : (await import('./commands/station-commands.js')).stationCommands();
for (const command of [...stationCommands, checkCommand(), solveCommand()]) program.addCommand(throwing(command));
// Whatever is opened after it works on the database that was named.
program.hook('preAction', (_program, command) => {
  const { database } = command.opts<{ database?: string }>();
  if (database !== undefined) process.env['FULLER_DATABASE'] = database;
});

try {
  await program.parseAsync();
} catch (error) {
  failWith(error, process.argv.includes('--json'));
}
process.exitCode ??= EXIT.done;
