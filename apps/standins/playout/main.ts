// A stand-in for a playout machine: it plays what was handed over, by a clock, without a sound.
import { readFile } from 'node:fs/promises';
import { Command } from 'commander';
import { endWithParent } from '../end-with-parent.js';
import { layoutFrom } from './day-files.js';
import { Playout } from './playout.js';

interface Options {
  readonly files: string;
  readonly folder: string;
  readonly port: string;
  readonly token: string;
  readonly zone: string;
  readonly station: string;
  readonly streamPort?: string;
  readonly streamPassword: string;
  readonly reconnect: string;
  readonly rate: string;
  readonly clock?: string;
  readonly layout?: string;
}

await new Command('standin-playout')
  .description('Play what was handed over, by a clock, and log what aired')
  .requiredOption('--files <dir>', 'where hand-over puts its files')
  .requiredOption('--folder <dir>', 'where the player keeps its journal and as-run logs')
  .requiredOption('--port <port>', 'port for HTTP')
  .requiredOption('--token <text>', 'what every request must carry')
  .requiredOption('--zone <zone>', 'time zone of the station')
  .option('--station <name>', 'name of the station', 'Station')
  .option('--stream-port <port>', 'port of the stream server on this machine')
  .option('--stream-password <text>', 'password of the stream server', '')
  .option('--reconnect <seconds>', 'wait before the stream is connected again, or “never”', '10')
  .option('--rate <fold>', 'how much faster than real time the clock runs', '1')
  .option('--clock <instant>', 'where the clock begins the first time, like 2026-11-24T06:00:00Z')
  .option('--layout <file>', 'layout of text files')
  .action(async (options: Options) => {
    endWithParent();
    const { files, folder, port, token, zone, station, streamPort, streamPassword, reconnect, rate, clock } = options;
    const playout = new Playout({
      files,
      folder,
      port: Number(port),
      token,
      timeZone: zone,
      station,
      rate: Number(rate),
      ...(clock === undefined ? {} : { atMs: Date.parse(clock) }),
      layout: options.layout === undefined ? null : layoutFrom(await readFile(options.layout, 'utf8')),
      stream:
        streamPort === undefined
          ? null
          : {
              host: '127.0.0.1',
              port: Number(streamPort),
              password: streamPassword,
              name: station,
              description: `${station}, as it plays`,
              reconnectMs: reconnect === 'never' ? null : Number(reconnect) * 1000,
            },
    });
    const { url } = await playout.start();
    process.stdout.write(`Plays ${files}, controlled at ${url}\n`);
  })
  .parseAsync();
