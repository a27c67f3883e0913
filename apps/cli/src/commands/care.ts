import { existsSync } from 'node:fs';
import { mkdir, stat } from 'node:fs/promises';
import path from 'node:path';
import { createInterface } from 'node:readline/promises';
import type { CareFinding, PersonRow } from '@fuller/contracts';
import { backupOf, databaseOf, factsOfBackup, FullerError, inlineCompute, openServices } from '@fuller/server';
import { Command } from 'commander';
import { moveCommand } from './move.js';
import { withData } from '../data.js';
import { EXIT } from '../exit.js';
import { printJson, UsageError } from '../output.js';

interface Where {
  readonly data: string;
  readonly json: boolean;
}

/** Commands that look after a data folder: backups, checks, and the password of somebody who has none. */
export function careCommands(): Command[] {
  return [backupCommand(), restoreCommand(), verifyCommand(), passwordCommand(), moveCommand()];
}

/** Copies are made of files; a database of PostgreSQL has tools of its own. */
function mustBeFile(data: string): void {
  if (databaseOf(data) !== null)
    throw new UsageError('the data is in PostgreSQL: back it up and restore it with pg_dump and pg_restore');
}

function backupCommand(): Command {
  return new Command('backup')
    .description('Write the data into one file, also while a server runs on it')
    .requiredOption('--data <dir>', 'data folder')
    .requiredOption('--out <file>', 'file to write; it must not be there')
    .option('--json', 'answer as JSON', false)
    .action(async ({ data, json, out }: Where & { readonly out: string }) => {
      mustBeFile(data);
      const file = path.resolve(out);
      if (existsSync(file)) throw new UsageError(`${out} is there already; nothing was written`);
      if (!existsSync(path.join(data, 'fuller.db'))) throw new UsageError(`${data} holds no data`);
      await mkdir(path.dirname(file), { recursive: true });
      // Beside a running server too: the database gives what is committed, whole, while others write.
      const facts = backupOf(path.resolve(data, 'fuller.db'), file);
      const { size } = await stat(file);
      if (json) printJson({ file, bytes: size, ...facts });
      else process.stdout.write(`${file}: ${words(facts)}, ${(size / 1e6).toFixed(1)} MB\n`);
    });
}

function restoreCommand(): Command {
  return new Command('restore')
    .description('Put a backup in place of the data; what is there is backed up first')
    .argument('<file>', 'backup')
    .requiredOption('--data <dir>', 'data folder')
    .option('--json', 'answer as JSON', false)
    .action(async (name: string, { data, json }: Where) => {
      const file = path.resolve(name);
      if (/^https?:/.test(data))
        throw new UsageError('a server restores on its page “Backups”; name its data folder here');
      mustBeFile(data);
      if (!existsSync(file)) throw new UsageError(`there is no file ${name}`);
      const facts = factsOfBackup(file);
      if (facts.faults.length > 0) throw new FullerError('INVALID', `${name} cannot be restored: ${facts.faults[0]}`);
      if (!existsSync(path.join(data, 'fuller.db'))) {
        await mkdir(data, { recursive: true });
        backupOf(file, path.join(path.resolve(data), 'fuller.db'));
      } else {
        const before = await withData(data, {
          here: (services) => services.backups.layReady(file),
          through: async () => {
            throw new FullerError(
              'IN_USE',
              'A server runs on this data; stop it first, or restore on its page “Backups”.',
            );
          },
        });
        if (!json) process.stdout.write(`What was there is kept as backups/${before}.db\n`);
      }
      // Opened once, it is brought up to date, or refused in words while what was there is still kept.
      const services = await openServices({ dataDir: data, compute: inlineCompute });
      await services.close();
      if (json) printJson({ data, ...facts });
      else process.stdout.write(`Restored ${words(facts)} to ${data}\n`);
    });
}

function verifyCommand(): Command {
  return new Command('verify')
    .description('Find what does not add up in the data; exits 4 where something does not')
    .requiredOption('--data <dir>', 'data folder')
    .option('--mend', 'mend what loses nothing by it', false)
    .option('--json', 'answer as JSON', false)
    .action(async ({ data, json, mend }: Where & { readonly mend: boolean }) => {
      const findings = await withData<CareFinding[]>(data, {
        here: ({ checks }) => (mend ? checks.mend() : checks.check()),
        through: (server) => (mend ? server.send('POST', 'care') : server.get('care')),
      });
      if (findings.length > 0) process.exitCode = EXIT.checkFailed;
      if (json) return printJson({ findings });
      for (const { what, count, examples, mends } of findings)
        process.stdout.write(
          `${count} ${what}${mends ? ' (--mend mends this)' : ''}${examples.map((one) => `\n  ${one}`).join('')}\n`,
        );
      if (findings.length === 0) process.stdout.write('Everything adds up.\n');
    });
}

function passwordCommand(): Command {
  return new Command('password')
    .description('Give an account another password, read from standard input, to be changed at the next sign-in')
    .argument('<name>', 'name of the account')
    .requiredOption('--data <dir>', 'data folder')
    .option('--json', 'answer as JSON', false)
    .action(async (name: string, { data, json }: Where) => {
      const password = await lineFromInput(json ? '' : `New password of ${name}: `);
      await withData(data, {
        here: async ({ people }) => {
          const { id } = named(await people.list(), name);
          const actor = { personId: null, clientId: 'command line', stationId: null };
          await people.setPassword(actor, id, password, { mustChange: true, butSession: null });
        },
        through: async (server) => {
          const { id } = named(await server.get<PersonRow[]>('people'), name);
          await server.send('PUT', `people/${id}/password`, { password });
        },
      });
      if (json) printJson({ name });
      else process.stdout.write(`${name} has another password, and chooses one at the next sign-in.\n`);
    });
}

function words({ stations, items, logs }: { stations: readonly string[]; items: number; logs: number }): string {
  return `${stations.join(', ')}: ${items.toLocaleString('en-GB')} items, ${logs.toLocaleString('en-GB')} logs`;
}

function named(people: readonly PersonRow[], name: string): PersonRow {
  const found = people.find((one) => one.name.toLowerCase() === name.trim().toLowerCase());
  if (!found)
    throw new UsageError(`there is no account “${name}”; there are ${people.map((one) => one.name).join(', ')}`);
  return found;
}

async function lineFromInput(prompt: string): Promise<string> {
  const lines = createInterface({ input: process.stdin, output: process.stderr, terminal: false });
  process.stderr.write(prompt);
  try {
    for await (const line of lines) return line;
    return '';
  } finally {
    lines.close();
  }
}
