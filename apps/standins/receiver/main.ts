// A stand-in for a playout machine that takes files by HTTP.
import { Command } from 'commander';
import { endWithParent } from '../end-with-parent.js';
import { startReceiver } from './receiver.js';

interface Options {
  readonly folder: string;
  readonly port: string;
  readonly user: string;
  readonly password: string;
}

await new Command('standin-receiver')
  .description('Take files by HTTP (WebDAV) as a playout machine does')
  .requiredOption('--folder <dir>', 'where the files go')
  .requiredOption('--port <port>', 'port on this machine')
  .option('--user <name>', 'name that must be given', '')
  .option('--password <text>', 'password that must be given', '')
  .action(async ({ folder, port, user, password }: Options) => {
    endWithParent();
    const { url } = await startReceiver({ folder, port: Number(port), user, password });
    process.stdout.write(`Takes files at ${url}\n`);
  })
  .parseAsync();
