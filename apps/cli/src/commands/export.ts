import path from 'node:path';
import { Command, Option } from 'commander';
import { dateArgument, stationOf, withData } from '../data.js';
import { printJson } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly date: string;
  readonly out: string;
  readonly hourly: boolean;
  readonly pattern?: string;
  readonly json: boolean;
}

export function exportCommand(): Command {
  return new Command('export')
    .description('Write a day’s log as playlist files')
    .requiredOption('--data <dir>', 'data folder')
    .option('--station <station>', 'station; the first one otherwise')
    .requiredOption('--date <date>', 'day', dateArgument)
    .addOption(new Option('--format <format>', 'file format').choices(['m3u8']).default('m3u8'))
    .requiredOption('--out <dir>', 'folder to write to')
    .option('--hourly', 'one file an hour', false)
    .option('--pattern <pattern>', 'file name, such as {station}_{date}_{hour}.m3u8')
    .option('--json', 'answer as JSON', false)
    .action(exportDay);
}

async function exportDay(options: Options): Promise<void> {
  await withData(options.data, async (services) => {
    const station = await stationOf(services, options.station);
    const pattern = options.pattern ?? (options.hourly ? '{station}_{date}_{hour}.m3u8' : '{station}_{date}.m3u8');
    const settings = { pattern, hourly: options.hourly };
    const { heldBack } = await services.handOver.files(station.id, options.date, settings);
    const { value } = await services.handOver.write(
      station.id,
      'command line',
      options.date,
      settings,
      path.resolve(options.out),
    );
    if (options.json) {
      printJson({
        folder: value.folder,
        files: value.files,
        entries: value.entries,
        heldBack: heldBack.map(({ title, why, hourIndex }) => ({ hour: hourIndex, title, why })),
      });
      return;
    }
    const counts = new Map<string, number>();
    for (const { why } of heldBack) counts.set(why, (counts.get(why) ?? 0) + 1);
    const left = [...counts].map(([why, count]) => `${count} left out: ${why}`);
    process.stdout.write(
      [`${value.entries} entries in ${value.files.length} files in ${value.folder}`, ...left, ''].join('\n'),
    );
  });
}
