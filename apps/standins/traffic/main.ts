// A stand-in for a traffic system: it writes the file of tomorrow into a folder, every day anew.
import { existsSync } from 'node:fs';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { addDays, localTimeOf } from '@fuller/core';
import { Command } from 'commander';
import iconv from 'iconv-lite';
import * as v from 'valibot';
import { endWithParent } from '../end-with-parent.js';
import { ContractSchema, type Contract } from './contract.js';
import { trafficFile, trafficFileName } from './traffic-file.js';

const LOOK_EVERY_MS = 60_000;

interface Options {
  readonly contract: string;
  readonly out: string;
  readonly date?: string;
}

await new Command('standin-traffic')
  .description('Book the spots of a made-up contract and write them as a traffic log')
  .requiredOption('--contract <file>', 'contract as JSON')
  .requiredOption('--out <dir>', 'folder to write to')
  .option('--date <date>', 'write the file of this day and stop')
  .action(async ({ contract: file, out, date }: Options) => {
    const contract = v.parse(ContractSchema, JSON.parse(await readFile(file, 'utf8')));
    await mkdir(out, { recursive: true });
    if (date !== undefined) return write(contract, out, date);
    endWithParent();
    const look = async (): Promise<void> => {
      const tomorrow = addDays(localTimeOf(Date.now(), contract.timeZone).date, 1);
      if (!existsSync(path.join(out, trafficFileName(tomorrow)))) await write(contract, out, tomorrow);
    };
    await look();
    setInterval(() => void look().catch((error: unknown) => process.stderr.write(`${String(error)}\n`)), LOOK_EVERY_MS);
  })
  .parseAsync();

/** Beside its place first, so that nobody reads half of it. */
async function write(contract: Contract, out: string, date: string): Promise<void> {
  const name = trafficFileName(date);
  const part = path.join(out, `.${name}.part`);
  await writeFile(part, iconv.encode(trafficFile(contract, date), 'win1252'));
  await rename(part, path.join(out, name));
  process.stdout.write(`Wrote ${name}\n`);
}
