import { existsSync } from 'node:fs';
import path from 'node:path';
import { isDate } from '@fuller/core';
import { inlineCompute, openServices, type Services } from '@fuller/server';
import { InvalidArgumentError } from 'commander';
import { UsageError } from './output.js';

/** Opens a data folder that is there, does the work and closes it again. */
export async function withData<T>(dataDir: string, work: (services: Services) => Promise<T>): Promise<T> {
  if (!existsSync(path.join(dataDir, 'fuller.db'))) {
    throw new UsageError(`${dataDir} holds no data; make it with: fuller init --data ${dataDir}`);
  }
  const services = await openServices({ dataDir, compute: inlineCompute });
  try {
    return await work(services);
  } finally {
    await services.close();
  }
}

/** The station of an id or a name; the first one without either. */
export async function stationOf(
  { catalogue }: Services,
  asked: string | undefined,
): Promise<{ id: string; name: string }> {
  const stations = await catalogue.stations();
  if (asked === undefined) {
    if (!stations[0]) throw new UsageError('there is no station in the data');
    return stations[0];
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

/** Work that nobody watches. */
export const UNWATCHED = { signal: new AbortController().signal, progress: () => {} };
