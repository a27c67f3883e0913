import { existsSync, readdirSync } from 'node:fs';
import { makeData } from '@fuller/demo';
import { hasData } from '@fuller/server';
import { Command } from 'commander';
import { wholeNumber } from '../data.js';
import { printJson, UsageError } from '../output.js';

interface Options {
  readonly data: string;
  readonly demo: boolean;
  readonly weeks: number;
  readonly json: boolean;
}

export function initCommand(): Command {
  return new Command('init')
    .description('Make an empty or a demo data folder')
    .requiredOption('--data <dir>', 'folder to make')
    .option('--demo', 'fill it with the demo station', false)
    .option('--weeks <count>', 'weeks of history of the demo station', wholeNumber(0, 52), 13)
    .option('--json', 'answer as JSON', false)
    .action(init);
}

async function init({ data, demo, weeks, json }: Options): Promise<void> {
  if (existsSync(data) && readdirSync(data).length > 0)
    throw new UsageError(`${data} is not empty; nothing was written`);
  if (await hasData(data)) throw new UsageError('the database holds stations already; nothing was written');
  await makeData({
    dataDir: data,
    nowMs: Date.now(),
    demo,
    historyDays: weeks * 7,
    onProgress: (doing) => void (json || process.stderr.write(`${doing}\n`)),
  });
  if (json) printJson({ data, demo });
  else process.stdout.write(`Made ${data}\n`);
}
