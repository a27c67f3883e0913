import { readFile } from 'node:fs/promises';
import { ForecastChanges, MOST_FORECAST_WEEKS, type ForecastAnswer } from '@fuller/contracts';
import { secondsInWords } from '@fuller/core';
import { ForecastService, hasData, openReading, threadCompute } from '@fuller/server';
import { Command } from 'commander';
import * as v from 'valibot';
import { dateArgument, stationOf, wholeNumber } from '../data.js';
import { printJson, UsageError } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly from?: string;
  readonly weeks: number;
  readonly seed: number;
  readonly change?: string;
  readonly json: boolean;
}

/** So many songs are listed whose plays change most. */
const SHOWN_SONGS = 12;

export function forecastCommand(): Command {
  return new Command('forecast')
    .description('Generate weeks in memory, as the station is and with changes, side by side; nothing is written')
    .requiredOption('--data <dir>', 'data folder; a server may be running on it')
    .option('--station <station>', 'station; the first one otherwise')
    .option('--from <date>', 'first day; tomorrow otherwise', dateArgument)
    .option('--weeks <count>', 'number of weeks', wholeNumber(1, MOST_FORECAST_WEEKS), 4)
    .option('--seed <number>', 'the same seed gives the same forecast', wholeNumber(0, 4_294_967_295), 1)
    .option('--change <file>', 'changes as JSON (docs/command-line.md); without them the station as it is')
    .option('--json', 'answer as JSON', false)
    .action(forecast);
}

async function forecast(options: Options): Promise<void> {
  const changes = options.change === undefined ? [] : await changesFrom(options.change);
  if (/^https?:\/\//.test(options.data)) throw new UsageError('a forecast is made where the data is; name its folder');
  if (!(await hasData(options.data)))
    throw new UsageError(`${options.data} holds no data; make it with: fuller init --data ${options.data}`);
  const reading = await openReading(options.data);
  const compute = threadCompute();
  try {
    const station = await stationOf(reading, options.station);
    const { from, weeks, seed } = options;
    const service = new ForecastService(reading.store, reading.reader, compute, Date.now);
    const progress = (_share: number, words: string): void => {
      if (process.stderr.isTTY) process.stderr.write(`\r${words}\u001b[K`);
    };
    const prepared = await service.prepare(station.id, { from, weeks, seed, changes });
    const answer = await service.run(prepared, { progress, signal: new AbortController().signal });
    if (process.stderr.isTTY) process.stderr.write('\r\u001b[K');
    if (options.json) printJson(answer);
    else process.stdout.write(inWords(answer, changes.length > 0));
  } finally {
    await compute.close();
    await reading.close();
  }
}

async function changesFrom(file: string): Promise<v.InferOutput<typeof ForecastChanges>> {
  const text = await readFile(file, 'utf8').catch(() => {
    throw new UsageError(`${file} cannot be read`);
  });
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new UsageError(`${file} is no JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  const result = v.safeParse(ForecastChanges, Array.isArray(value) ? value : [value]);
  if (result.success) return result.output;
  const [issue] = result.issues;
  throw new UsageError(`${file}: ${v.getDotPath(issue) ?? 'the change'} ${issue.message}`);
}

function inWords(answer: ForecastAnswer, changed: boolean): string {
  const { from, weeks, sentences, slots, open, strains, onTime, hours, categories, songs } = answer;
  const beside = (today: string | number, then: string | number): string =>
    changed ? `${String(today).padStart(14)}${String(then).padStart(14)}` : String(today).padStart(14);
  const line = (label: string, today: string | number, then: string | number): string =>
    `${label.slice(0, 40).padEnd(40)}${beside(today, then)}`;
  const rest = (seconds: number | null): string => (seconds === null ? '–' : secondsInWords(seconds));
  const broken = strains.reduce(
    (sum, { count }) => ({ today: sum.today + count.today, changed: sum.changed + count.changed }),
    {
      today: 0,
      changed: 0,
    },
  );
  const most = [...songs]
    .filter(({ plays }) => plays.today !== plays.changed)
    .sort((a, b) => Math.abs(b.plays.changed - b.plays.today) - Math.abs(a.plays.changed - a.plays.today))
    .slice(0, SHOWN_SONGS);
  return `${[
    `${weeks === 1 ? '1 week' : `${weeks} weeks`} from ${from}`,
    ...(changed ? ['', ...sentences] : []),
    '',
    line('', 'today', 'changed'),
    line('Slots', slots.today, slots.changed),
    line('Open slots', open.today, open.changed),
    line('Places where a rule is broken', broken.today, broken.changed),
    line('Hours that end on time', `${onTime.today}/${hours.today}`, `${onTime.changed}/${hours.changed}`),
    '',
    ...categories.map(({ category, plays }) => line(`Plays of ${category}`, plays.today, plays.changed)),
    '',
    ...categories.map((one) => line(`Rest of ${one.category}`, rest(one.rest.today), rest(one.rest.changed))),
    ...(most.length > 0 ? ['', ...most.map(({ title, plays }) => line(title, plays.today, plays.changed))] : []),
  ].join('\n')}\n`;
}
