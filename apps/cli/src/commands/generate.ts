import { programAt, UNWATCHED } from '@fuller/server';
import type { GeneratedDaySummary, JobView } from '@fuller/contracts';
import { Command } from 'commander';
import { dateArgument, stationOf, wholeNumber, withData } from '../data.js';
import { EXIT } from '../exit.js';
import { printJson } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly from: string;
  readonly days: number;
  readonly seed: number;
  readonly only?: 'open';
  readonly json: boolean;
}

export function generateCommand(): Command {
  return new Command('generate')
    .description('Generate logs; locked entries are kept')
    .requiredOption('--data <dir>', 'data folder')
    .option('--station <station>', 'station; the first one otherwise')
    .requiredOption('--from <date>', 'first day', dateArgument)
    .option('--days <count>', 'number of days', wholeNumber(1, 31), 1)
    .option('--seed <number>', 'the same seed gives the same log', wholeNumber(0, 4_294_967_295), 1)
    .option('--only <what>', '“open”: fill open slots and leave the rest')
    .option('--json', 'answer as JSON', false)
    .action(generate);
}

async function generate(options: Options): Promise<void> {
  const range = { from: options.from, days: options.days, seed: options.seed, only: options.only ?? ('all' as const) };
  const days = await withData<readonly GeneratedDaySummary[]>(options.data, {
    async here(services) {
      const station = await stationOf(services, options.station);
      await services.generate.check(station.id, range);
      return (await services.generate.run(programAt(station.id, 'command line'), range, UNWATCHED)).result.days;
    },
    async through(server) {
      const station = await stationOf(server, options.station);
      const job = await server.send<JobView>('POST', `stations/${station.id}/generate`, range);
      return ((await server.ended(job)).result as { days: GeneratedDaySummary[] }).days;
    },
  });
  if (options.json) printJson({ days });
  else process.stdout.write(table(days));
  if (days.some((day) => day.open.length > 0)) process.exitCode = EXIT.openSlots;
}

function table(days: readonly GeneratedDaySummary[]): string {
  const head = 'date        slots  filled  open   ms';
  const rows = days.map(({ date, slots, filled, open, ms }) =>
    [
      date,
      String(slots).padStart(6),
      String(filled).padStart(7),
      String(open.length).padStart(5),
      String(ms).padStart(4),
    ].join(' '),
  );
  const open = days.flatMap((day) =>
    day.open.map(({ start, line, heldBackBy }) => {
      const held = heldBackBy.map(({ rule, items }) => `${items} by “${rule}”`).join(', ');
      return `open ${start} ${line}${held ? `: held back ${held}` : ''}`;
    }),
  );
  return [head, ...rows, ...open, ''].join('\n');
}
