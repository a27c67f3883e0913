import { existsSync } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { LONGEST_TRAFFIC, type KeptLayout, type TrafficOutcome, type TrafficSetUp } from '@fuller/contracts';
import { checkLayout, formatDuration, type TextLayout } from '@fuller/core';
import { decodeText } from '@fuller/core/decode-text';
import { programAt, type TrafficFile } from '@fuller/server';
import { Command } from 'commander';
import { dateArgument, stationOf, withData } from '../data.js';
import { EXIT } from '../exit.js';
import { printJson, readJson, UsageError } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly date: string;
  readonly layout?: string;
  readonly tolerance?: string;
  readonly dryRun: boolean;
  readonly json: boolean;
}

const MINUTE_MS = 60_000;

export function importTrafficCommand(): Command {
  return new Command('traffic')
    .description('Book the spots of a traffic log in the breaks of a day')
    .argument('<file>', 'text file, one spot a line')
    .requiredOption('--data <dir>', 'data folder')
    .requiredOption('--date <date>', 'the day', dateArgument)
    .option('--station <station>', 'station; the first one otherwise')
    .option(
      '--layout <layout>',
      'one the station keeps by its name, a JSON file, or “auto” for what the file proposes; the station’s own otherwise',
    )
    .option(
      '--tolerance <minutes>',
      'how far from its break a spot may be booked, 0 to 30; the station’s own otherwise',
    )
    .option('--dry-run', 'tell what would happen and write nothing', false)
    .option('--json', 'answer as JSON', false)
    .action(importTraffic);
}

async function importTraffic(file: string, options: Options): Promise<void> {
  const propose = options.layout === 'auto';
  const toleranceMs = options.tolerance === undefined ? null : Math.round(Number(options.tolerance) * MINUTE_MS);
  if (toleranceMs !== null && !(toleranceMs >= 0 && toleranceMs <= 30 * MINUTE_MS))
    throw new UsageError('--tolerance: write a number of minutes from 0 to 30');
  const asked = async (kept: readonly KeptLayout[]): Promise<TrafficFile> => {
    const layout = options.layout === undefined || propose ? null : await layoutOf(options.layout, kept);
    const text = await textOf(file, layout);
    return { text, fileName: path.basename(file), layout, propose, toleranceMs, dryRun: options.dryRun };
  };
  const outcome = await withData<TrafficOutcome>(options.data, {
    async here(services) {
      const { id } = await stationOf(services, options.station);
      const given = await asked(await services.trafficSettings.layouts(id));
      return services.traffic.take(programAt(id, 'command line'), options.date, given);
    },
    async through(server) {
      const { id } = await stationOf(server, options.station);
      const { layouts } = await server.get<TrafficSetUp>(`stations/${id}/traffic-settings`);
      const where = `stations/${id}/logs/${options.date}/traffic`;
      return server.send<TrafficOutcome>('POST', where, await asked(layouts));
    },
  });
  const { lines, placed, tray, errors } = outcome;
  if (tray.length + errors.length > 0) process.exitCode = EXIT.needsPerson;
  if (options.json) printJson({ lines, placed, tray, errors, breaks: outcome.breaks, layout: outcome.layout });
  else process.stdout.write(inWords(outcome, options.dryRun));
}

/** The text of a log in a file, in the encoding of its layout. Throws UsageError where it is none. */
export async function textOf(file: string, layout: TextLayout | null): Promise<string> {
  const found = await stat(file).catch(() => null);
  if (!found?.isFile()) throw new UsageError(`there is no file ${file}`);
  // A letter is four bytes at most.
  if (found.size > LONGEST_TRAFFIC * 4) throw new UsageError(`${file} is too large to be a log of a day`);
  const asked = layout && layout.encoding !== 'auto' ? layout.encoding : undefined;
  const decoded = decodeText(await readFile(file), asked);
  if (!decoded.ok) throw new UsageError(`${file}: ${decoded.why}`);
  const { text } = decoded;
  if (text.length > LONGEST_TRAFFIC) throw new UsageError(`${file} is too large to be a log of a day`);
  if (text.trim() === '') throw new UsageError(`${file} is empty`);
  return text;
}

/** A layout that the station keeps, by its name, or one in a file. */
export async function layoutOf(named: string, kept: readonly KeptLayout[]): Promise<TextLayout> {
  const known = kept.find(({ name }) => name.toLowerCase() === named.toLowerCase());
  if (known) return known.layout;
  if (!existsSync(named))
    throw new UsageError(
      `there is no layout and no file “${named}”${kept.length > 0 ? `; there are ${kept.map(({ name }) => name).join(', ')}` : ''}`,
    );
  return layoutFrom(named);
}

/** A layout as it is shared. Throws UsageError where the file is none. */
export async function layoutFrom(file: string): Promise<TextLayout> {
  const value = await readJson(file);
  const checked = checkLayout(value);
  if (!checked.ok) throw new UsageError(`${file}: ${checked.path ? `${checked.path} ` : ''}${checked.why}`);
  return checked.layout;
}

function inWords({ lines, placed, tray, errors, breaks, added, removed }: TrafficOutcome, dryRun: boolean): string {
  return [
    `${lines} lines, ${placed} spots ${dryRun ? 'would be ' : ''}placed (${added} new, ${removed} gone), ${tray.length} in the tray, ${errors.length} errors`,
    ...tray.map(({ line, cart, sponsor, why }) => `  tray, line ${line}: ${cart} ${sponsor}: ${why}`),
    ...errors.map(({ line, why }) => `  error, line ${line}: ${why}`),
    ...breaks.flatMap(({ start, marks }) => marks.map((mark) => `  ${start}  ${mark}`)),
    ...breaks
      .filter(({ bookedMs, plannedMs }) => bookedMs > plannedMs)
      .map(
        ({ start, bookedMs, plannedMs }) =>
          `  ${start}  ${formatDuration(bookedMs)} booked, ${formatDuration(plannedMs)} planned`,
      ),
    '',
  ].join('\n');
}
