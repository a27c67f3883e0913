import { createServer, type Server } from 'node:http';
import { pino, type Logger } from 'pino';
import { createApp } from './app.js';
import { openServices, type Services } from './services.js';

export interface ServeOptions {
  readonly dataDir: string;
  readonly port: number;
  readonly host: string;
  readonly webDir: string | null;
  readonly log: Logger;
}

export interface Running {
  readonly url: string;
  readonly services: Services;
  stop(): Promise<void>;
}

/** Messages a person reads, to standard error. */
export function plainLogger(level = process.env['FULLER_LOG'] ?? 'info'): Logger {
  if (process.stderr.isTTY !== true) return pino({ level }, pino.destination(2));
  return pino({
    level,
    transport: {
      target: 'pino-pretty',
      options: { destination: 2, ignore: 'pid,hostname', translateTime: 'HH:MM:ss' },
    },
  });
}

/** Opens a data folder and serves it; rejects when the port is taken. */
export async function serve({ dataDir, port, host, webDir, log }: ServeOptions): Promise<Running> {
  const services = await openServices({
    dataDir,
    reportFault: (error, job) => log.error({ err: error, job }, 'A job failed unexpectedly'),
  });
  await services.watched.begin();
  const server = createServer(createApp(services, { log, webDir }));
  await listen(server, port, host);
  const address = server.address();
  const bound = typeof address === 'object' && address ? address.port : port;
  const url = `http://${host.includes(':') ? `[${host}]` : host}:${bound}`;
  log.info({ dataDir }, `Fuller is at ${url}`);
  let stopping: Promise<void> | null = null;
  const stop = async (): Promise<void> => {
    log.info('Stopping');
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    await services.jobs.close();
    // Event streams never end by themselves.
    server.closeAllConnections();
    await closed;
    await services.close();
  };
  return { url, services, stop: () => (stopping ??= stop()) };
}

function listen(server: Server, port: number, host: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.off('error', reject);
      resolve();
    });
  });
}
