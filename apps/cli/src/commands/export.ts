import { programAt } from '@fuller/server';
import path from 'node:path';
import type { HandOverPreview, HandOverRecord } from '@fuller/contracts';
import { Command, Option } from 'commander';
import { AUDIO_ROOT, audioRoots, dateArgument, stationOf, withData } from '../data.js';
import { printJson } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly date: string;
  readonly out: string;
  readonly hourly: boolean;
  readonly pattern?: string;
  readonly audioRoot?: readonly string[];
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
    .option(...AUDIO_ROOT)
    .option('--json', 'answer as JSON', false)
    .action(exportDay);
}

async function exportDay(options: Options): Promise<void> {
  const pattern = options.pattern ?? (options.hourly ? '{station}_{date}_{hour}.m3u8' : '{station}_{date}.m3u8');
  const settings = { pattern, hourly: options.hourly };
  const out = path.resolve(options.out);
  const { value, heldBack } = await withData<Exported>(
    options.data,
    {
      async here(services) {
        const station = await stationOf(services, options.station);
        const files = await services.handOver.files(station.id, options.date, settings);
        const written = await services.handOver.write(
          programAt(station.id, 'command line'),
          options.date,
          settings,
          out,
        );
        return { value: written.value, heldBack: files.heldBack };
      },
      async through(server) {
        const station = await stationOf(server, options.station);
        const where = `stations/${station.id}/hand-over`;
        const asked = { date: options.date, ...settings };
        const { heldBack } = await server.send<HandOverPreview>('POST', `${where}/preview`, asked);
        return { value: await server.send<HandOverRecord>('POST', where, { ...asked, folder: out }), heldBack };
      },
    },
    audioRoots(options.audioRoot),
  );
  if (options.json) {
    const { folder, files, entries } = value;
    const held = heldBack.map(({ title, why, hourIndex }) => ({ hour: hourIndex, title, why }));
    printJson({ folder, files, entries, heldBack: held });
    return;
  }
  const counts = new Map<string, number>();
  for (const { why } of heldBack) counts.set(why, (counts.get(why) ?? 0) + 1);
  const left = [...counts].map(([why, count]) => `${count} left out: ${why}`);
  process.stdout.write(
    [`${value.entries} entries in ${value.files.length} files in ${value.folder}`, ...left, ''].join('\n'),
  );
}

interface Exported {
  readonly value: HandOverRecord;
  readonly heldBack: HandOverPreview['heldBack'];
}
