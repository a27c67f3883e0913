import { existsSync } from 'node:fs';
import path from 'node:path';
import { moveData, type Standing } from '@fuller/server';
import { Command } from 'commander';
import { printJson, UsageError } from '../output.js';

interface Options {
  readonly from: string;
  readonly to: string;
  readonly json: boolean;
}

/** Carries data between a folder and a database of PostgreSQL, either way. */
export function moveCommand(): Command {
  return new Command('move')
    .description('Copy all data from a folder into a database of PostgreSQL, or back; broken off, begin it again')
    .requiredOption('--from <place>', 'data folder, or postgres://user@host/name')
    .requiredOption('--to <place>', 'the same; it must hold nothing else')
    .option('--json', 'answer as JSON', false)
    .action(async ({ from, to, json }: Options) => {
      const [source, target] = [standingOf(from), standingOf(to)];
      if ('dataDir' in source && !existsSync(path.join(source.dataDir, 'fuller.db')))
        throw new UsageError(`${from} holds no data`);
      const tell = (words: string): void => {
        if (process.stderr.isTTY) process.stderr.write(`\r${words}\u001b[K`);
      };
      const tables = await moveData(source, target, tell);
      tell('');
      const rows = tables.reduce((sum, table) => sum + table.rows, 0);
      if (json) return printJson({ rows, tables });
      process.stdout.write(
        `Copied ${rows.toLocaleString('en-GB')} rows of ${tables.length} tables; both sides are the same.\n` +
          ('database' in target
            ? 'Audio and other files stay in the data folder. Serve it with --database from now on.\n'
            : 'Audio and other files are not in the database; copy them into the folder too.\n'),
      );
    });
}

function standingOf(place: string): Standing {
  return /^postgres(ql)?:\/\//.test(place) ? { database: place } : { dataDir: path.resolve(place) };
}
