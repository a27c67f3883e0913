import { randomBytes } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import { hostname, networkInterfaces } from 'node:os';
import { setTimeout } from 'node:timers/promises';
import { localTimeOf } from '@fuller/core';
import pRetry from 'p-retry';
import { pino, type Logger } from 'pino';
import { createApp } from './app.js';
import { FullerError } from './errors.js';
import { openServices, type Services } from './services.js';

/** Listening waits so long for what the first person will ask for, ms. */
const READ_FIRST_MS = 1_500;
/** The next station is read ahead this much later, ms. */
const READ_NEXT_AFTER_MS = 3_000;

/** Old activities are forgotten this often, ms. */
const FORGET_EVERY_MS = 6 * 3_600_000;

export interface ServeOptions {
  readonly dataDir: string;
  readonly port: number;
  readonly host: string;
  /** Names under which browsers reach this server, besides those of this machine. */
  readonly hosts?: readonly string[];
  /** Folders besides the data folder's own from which audio may be read. */
  readonly roots?: readonly string[];
  /** Folders besides the data folder's own through which files are exchanged with other programs. */
  readonly exchangeRoots?: readonly string[];
  readonly webDir: string | null;
  readonly log: Logger;
  /** False where whoever uses this computer may do everything; refused where other computers reach the server. */
  readonly accounts?: boolean;
  /** Whether a demo’s accounts sign in by one press from other computers too. */
  readonly demo?: boolean;
  /** Told whenever it begins: at first, and again after a backup was restored. */
  readonly begun?: (services: Services) => Promise<void>;
  /** Whether browsers reach it over https, by a proxy, so that cookies are sent over nothing else. */
  readonly https?: boolean;
}

/** After so long Fuller tries to begin again where its database could not be reached, ms. */
const AGAIN_AFTER_MS = 3_000;

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

/** Opens a data folder and serves it; rejects when the port is taken. It begins again where a backup is restored. */
export async function serve(options: ServeOptions): Promise<Running> {
  let current = await serveOnce(options);
  const { url } = current;
  const port = Number(new URL(url).port);
  let stopped = false;
  let beginning: Promise<void> = Promise.resolve();
  const begin = async (): Promise<void> => {
    current.services.restarting.by(() => {
      beginning = again().catch((error: unknown) => options.log.error({ err: error }, 'Fuller could not begin again'));
    });
    await options.begun?.(current.services);
  };
  const again = async (): Promise<void> => {
    if (stopped) return;
    options.log.info('Beginning again');
    await current.stop();
    // A database that is gone for a while is waited for.
    current = await pRetry(() => (stopped ? current : serveOnce({ ...options, port })), {
      forever: true,
      minTimeout: AGAIN_AFTER_MS,
      maxTimeout: AGAIN_AFTER_MS,
      shouldRetry: (error) => error instanceof FullerError && error.code === 'STORAGE',
      onFailedAttempt: (error) => options.log.error({ err: error }, 'Fuller could not begin again yet'),
    });
    if (!stopped) await begin();
  };
  await begin();
  return {
    url,
    get services() {
      return current.services;
    },
    async stop() {
      stopped = true;
      await beginning;
      await current.stop();
    },
  };
}

async function serveOnce({
  dataDir,
  port,
  host,
  hosts = [],
  roots = [],
  exchangeRoots = [],
  webDir,
  log,
  accounts = true,
  demo = false,
  https = false,
}: ServeOptions): Promise<Running> {
  // A proxy in front, or a name of its own, means that others reach it whatever address it listens on.
  const loopback = isLoopback(host) && !https && hosts.length === 0;
  if (!accounts && !loopback)
    throw new FullerError(
      'INVALID',
      'Other computers reach this server; only one at 127.0.0.1, without --https and --allow-host, can go without accounts.',
    );
  const setUpCode = randomBytes(5).toString('hex').toUpperCase();
  const services = await openServices({
    dataDir,
    threads: true,
    roots,
    exchangeRoots,
    tell: (words) => log.warn(words),
    reportFault: (error, job) => log.error({ err: error, job }, 'A job failed unexpectedly'),
  });
  let stopping: Promise<void> | null = null;
  const server = createServer(
    createApp(services, {
      log,
      webDir,
      hosts: hostsOf(host, hosts),
      access: { accounts, loopback, demo, secureCookies: https, setUpCode },
      checkAnswers: process.env['FULLER_CHECK_ANSWERS'] === 'yes',
    }),
  );
  try {
    await readFirst(services);
    await listen(server, port, host);
  } catch (error) {
    await services.close();
    throw error;
  }
  const forgetting = setInterval(() => {
    if (watching) forgetOld(services, log);
  }, FORGET_EVERY_MS);
  let watching = false;
  const duty = services.dutyOf({
    gained: () => {
      watching = true;
      beginWatching(services, log);
    },
    // Another server may watch now; this one begins again without.
    lost: () => void services.restarting.now(),
    reportFault: (error, about) => log.error({ err: error, about }, 'The database cannot be asked'),
  });
  duty.begin();
  readOthers(services).catch((error: unknown) => {
    if (!stopping) log.error({ err: error }, 'Nothing could be read ahead');
  });
  const address = server.address();
  const bound = typeof address === 'object' && address ? address.port : port;
  const url = `http://${host.includes(':') ? `[${host}]` : host}:${bound}`;
  await services.owner.tell(url);
  log.info({ dataDir }, `Fuller is at ${url}`);
  if (accounts && !loopback && (await services.people.count()) === 0)
    log.warn(`There is no account yet. Whoever makes the first from another computer needs the code ${setUpCode}.`);
  const stop = async (): Promise<void> => {
    log.info('Stopping');
    clearInterval(forgetting);
    await duty.close();
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    await services.jobs.close();
    // Event streams never end by themselves.
    server.closeAllConnections();
    await closed;
    await services.close();
  };
  return { url, services, stop: () => (stopping ??= stop()) };
}

/** Does what one server does for all: follows players, watches folders, and what is due at night. */
function beginWatching(services: Services, log: Logger): void {
  const failed =
    (words: string) =>
    (error: unknown): void =>
      log.error({ err: error }, words);
  // What watched folders hold may take long to find; the server answers meanwhile.
  services.trafficWatch.begin().catch(failed('A traffic folder cannot be watched'));
  services.figuresKeeper.lookSoon();
  services.onAir.begin().catch(failed('No player can be followed'));
  services.requests.begin();
  forgetOld(services, log);
  services.backups.watch(failed('A nightly backup could not be made'));
  services.nightlyMoves.watch(failed('The moves of the night could not be made'));
  services.handOverJobs.watch(failed('A nightly hand-over could not begin'));
  services.watched.begin().catch(failed('A folder cannot be watched'));
  services.takeBackLeft(failed('What a stopped server has left cannot be taken back'));
}

function forgetOld({ activity }: Services, log: Logger): void {
  activity.forgetOld().catch((error: unknown) => log.error({ err: error }, 'Old activities stay'));
}

/** Reads what the first person will ask for before they do, as far as that is quick. */
async function readFirst({ catalogue, thread, now }: Services): Promise<void> {
  if (!thread) return;
  await thread.ready;
  const first = (await catalogue.stations()).find(({ archived }) => !archived);
  if (!first) return;
  const read = thread.data(first.id, localTimeOf(now(), first.timeZone).date, []);
  await Promise.race([read.catch(() => {}), setTimeout(READ_FIRST_MS, undefined, { ref: false })]);
}

/** Reads the same of the other stations a while later. */
async function readOthers({ catalogue, thread, now }: Services): Promise<void> {
  for (const { id, timeZone } of (await catalogue.stations()).slice(1)) {
    await setTimeout(READ_NEXT_AFTER_MS, undefined, { ref: false });
    await thread?.data(id, localTimeOf(now(), timeZone).date, []);
  }
}

/** Whether an address can be reached from this computer alone. */
function isLoopback(host: string): boolean {
  return host === 'localhost' || host === '::1' || /^127\./.test(host);
}

/** The names a browser may use for a server that listens on an address. */
function hostsOf(host: string, more: readonly string[]): string[] {
  const own = ['localhost', '127.0.0.1', '::1', host];
  // Listening everywhere, it is reached by the addresses of its machine as well.
  if (host === '0.0.0.0' || host === '::') {
    own.push(
      hostname(),
      ...Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map(({ address }) => address)),
    );
  }
  return [...own, ...more].map((name) => name.toLowerCase());
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
