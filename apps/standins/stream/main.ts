// A stand-in for a stream server that a playout machine sends its sound to.
import { Command } from 'commander';
import { endWithParent } from '../end-with-parent.js';
import { startStream } from './stream-server.js';

interface Options {
  readonly port: string;
  readonly controlPort: string;
  readonly password: string;
}

await new Command('standin-stream')
  .description('Take the stream of a source by TCP, and tell its state by HTTP')
  .requiredOption('--port <port>', 'port for the source')
  .requiredOption('--control-port <port>', 'port for HTTP')
  .requiredOption('--password <text>', 'password of the source')
  .action(async ({ port, controlPort, password }: Options) => {
    endWithParent();
    const { url } = await startStream({ port: Number(port), controlPort: Number(controlPort), password });
    process.stdout.write(`Streams from port ${port}, its state at ${url}\n`);
  })
  .parseAsync();
