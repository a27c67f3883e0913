import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { makeData } from '@fuller/demo';
import { hasData, plainLogger, serve } from '@fuller/server';
import { Command } from 'commander';
import { AUDIO_ROOT, audioRoots, EXCHANGE_ROOT, exchangeRoots, wholeNumber } from '../data.js';
import { startStandIns } from '../stand-ins.js';
import { printJson } from '../output.js';

/** Where the build puts the interface, seen from the bundled program. */
const WEB = fileURLToPath(new URL('./web/browser', import.meta.url));

interface Options {
  readonly data: string;
  readonly port: number;
  readonly host: string;
  readonly demo: boolean;
  readonly json: boolean;
  readonly allowHost?: string[];
  readonly audioRoot?: string[];
  readonly exchangeRoot?: string[];
  readonly standins: boolean;
  readonly accounts: boolean;
  readonly https: boolean;
}

export function serveCommand(): Command {
  return new Command('serve')
    .description('Start the server and the interface')
    .option('--data <dir>', 'data folder', './data')
    .option('--port <port>', 'port', wholeNumber(0, 65_535), 4600)
    .option('--host <host>', 'address to listen on', '127.0.0.1')
    .option('--demo', 'make the demo station first when there is no data', false)
    .option('--allow-host <name...>', 'more names under which browsers reach this server')
    .option(...AUDIO_ROOT)
    .option(...EXCHANGE_ROOT)
    .option('--no-standins', 'with --demo: do not start the stand-ins for traffic and playout')
    .option('--no-accounts', 'let whoever uses this computer do everything; for 127.0.0.1 alone')
    .option('--https', 'browsers come over https, through a proxy: send cookies over nothing else', false)
    .option('--json', 'tell the address as JSON', false)
    .action(async (options: Options) => {
      const { data, port, host, demo, json, allowHost, audioRoot, exchangeRoot, standins, accounts, https } = options;
      const log = plainLogger();
      if (!(await hasData(data))) {
        log.info(demo ? 'Making the demo station; this takes a little while once' : 'Making an empty data folder');
        await makeData({ dataDir: data, nowMs: Date.now(), demo, onProgress: (doing) => log.info(doing) });
      }
      const running = await serve({
        dataDir: data,
        port,
        host,
        hosts: [
          ...(allowHost ?? []),
          ...(process.env['FULLER_HOSTS'] ?? '').split(',').map((name) => name.trim()),
        ].filter(Boolean),
        roots: audioRoots(audioRoot),
        exchangeRoots: exchangeRoots(exchangeRoot),
        webDir: existsSync(WEB) ? WEB : null,
        log,
        accounts,
        demo,
        https,
        begun: async (services) => {
          if (demo && standins) await startStandIns(services);
        },
      });
      if (json) printJson({ url: running.url });
      else process.stdout.write(`Fuller is at ${running.url}\n`);
      const stop = (): void => void running.stop().then(() => process.exit(0));
      process.on('SIGINT', stop);
      process.on('SIGTERM', stop);
    });
}
