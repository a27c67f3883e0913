// A stand-in for a request line: made-up listeners ask for songs.
import { readFile } from 'node:fs/promises';
import { Command } from 'commander';
import * as v from 'valibot';
import { endWithParent } from '../end-with-parent.js';
import { startRequestLine } from './request-line.js';
import { WishListSchema } from './wishes.js';

interface Options {
  readonly port: string;
  readonly wishes: string;
  readonly perHour: string;
}

await new Command('standin-requests')
  .description('Ask for songs as listeners do')
  .requiredOption('--port <port>', 'port for HTTP')
  .requiredOption('--wishes <file>', 'who asks, and for what, as JSON')
  .option('--per-hour <count>', 'so many an hour by the station’s clock', '6')
  .action(async ({ port, wishes, perHour }: Options) => {
    endWithParent();
    const list = v.parse(WishListSchema, JSON.parse(await readFile(wishes, 'utf8')));
    const { url } = await startRequestLine({ port: Number(port), list, perHour: Number(perHour) });
    process.stdout.write(`Takes wishes at ${url}\n`);
  })
  .parseAsync();
