import path from 'node:path';
import type { Station } from '@fuller/contracts';
import { isDate } from '@fuller/core';
import { FullerError, hasData, inlineCompute, openServices, ownerOf, type Services } from '@fuller/server';
import { InvalidArgumentError } from 'commander';
import { UsageError } from './output.js';
import { RemoteFuller } from './remote.js';

/** What a command does with data that is free, and through the server that has it. */
export interface Ways<T> {
  here(services: Services): Promise<T>;
  through(server: RemoteFuller): Promise<T>;
}

/**
 * Does the work on a data folder that is there: itself, or through the server that runs on it. In place of a folder the
 * address of a server may be named; it is asked with the token in FULLER_TOKEN.
 */
export async function withData<T>(
  dataDir: string,
  { here, through }: Ways<T>,
  roots: readonly string[] = [],
): Promise<T> {
  if (/^https?:\/\//.test(dataDir)) return through(RemoteFuller.withToken(dataDir, tokenFromEnvironment()));
  if (!(await hasData(dataDir))) {
    throw new UsageError(`${dataDir} holds no data; make it with: fuller init --data ${dataDir}`);
  }
  const services = await openServices({
    dataDir,
    compute: inlineCompute,
    roots,
    exchangeRoots: exchangeRoots(),
    tell: (words) => void process.stderr.write(`${words}\n`),
  }).catch(async (error: unknown) => {
    if (!(error instanceof FullerError) || error.code !== 'IN_USE') throw error;
    const owner = await ownerOf(dataDir);
    if (!owner?.url) throw error;
    return RemoteFuller.ofOwner({ url: owner.url, token: owner.token });
  });
  if (services instanceof RemoteFuller) return through(services);
  try {
    return await here(services);
  } finally {
    await services.close();
  }
}

/** Not an option: what stands on a command line is seen by every user of a computer. */
function tokenFromEnvironment(): string {
  const token = process.env['FULLER_TOKEN'] ?? '';
  if (token === '')
    throw new UsageError('a server is asked with a token: make one under People, and set FULLER_TOKEN to it');
  return token;
}

/** Names a database of PostgreSQL in place of the file in the data folder; FULLER_DATABASE does the same. */
export const DATABASE = [
  '--database <url>',
  'a database of PostgreSQL to work on, as postgres://user@host/name',
] as const;

/** Names folders besides the data folder's own from which audio may be read. */
export const AUDIO_ROOT = ['--audio-root <dir...>', 'more folders from which audio may be read'] as const;

/** Names folders besides the data folder's own through which files are exchanged with other programs. */
export const EXCHANGE_ROOT = [
  '--exchange-root <dir...>',
  'more folders to write files for players to, and to read traffic logs from',
] as const;

/** Folders named on the command line and in the environment for exchanging files. */
export function exchangeRoots(named: readonly string[] = []): string[] {
  return [...named, ...(process.env['FULLER_EXCHANGE_ROOTS'] ?? '').split(path.delimiter)].filter(Boolean);
}

/** Folders of audio named on the command line and in the environment. */
export function audioRoots(named: readonly string[] = []): string[] {
  return [...named, ...(process.env['FULLER_AUDIO_ROOTS'] ?? '').split(path.delimiter)].filter(Boolean);
}

/** The station of an id or a name; the first one without either. */
export async function stationOf(
  from: Pick<Services, 'catalogue'> | RemoteFuller,
  asked: string | undefined,
): Promise<{ id: string; name: string }> {
  const stations =
    from instanceof RemoteFuller ? await from.get<Station[]>('stations') : await from.catalogue.stations();
  if (asked === undefined) {
    const first = stations.find(({ archived }) => !archived);
    if (!first) throw new UsageError('there is no station in the data');
    return first;
  }
  const found = stations.find((station) => station.id === asked || station.name.toLowerCase() === asked.toLowerCase());
  if (!found)
    throw new UsageError(
      `there is no station “${asked}”; there are ${stations.map((station) => station.id).join(', ')}`,
    );
  return found;
}

export function dateArgument(text: string): string {
  if (!isDate(text)) throw new InvalidArgumentError('Write a date like 2026-11-23.');
  return text;
}

export function wholeNumber(low: number, high: number): (text: string) => number {
  return (text) => {
    const value = Number(text);
    if (!/^\d+$/.test(text) || value < low || value > high)
      throw new InvalidArgumentError(`Write a whole number from ${low} to ${high}.`);
    return value;
  };
}
