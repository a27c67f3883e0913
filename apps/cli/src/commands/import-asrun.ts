import path from 'node:path';
import type { AsRunOutcome, AsRunRequest, KeptLayout, TrafficSetUp } from '@fuller/contracts';
import { AS_RUN_LAYOUT, isDifference } from '@fuller/core';
import { programAt } from '@fuller/server';
import { Command } from 'commander';
import { dateArgument, stationOf, withData } from '../data.js';
import { EXIT } from '../exit.js';
import { printJson } from '../output.js';
import { layoutOf, textOf } from './import-traffic.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly date: string;
  readonly layout?: string;
  readonly dryRun: boolean;
  readonly json: boolean;
}

export function importAsRunCommand(): Command {
  return new Command('asrun')
    .description('Import what aired on a day, and tell how it differs from the log')
    .argument('<file>', 'JSON, a table with a head line, or text by a layout')
    .requiredOption('--data <dir>', 'data folder')
    .requiredOption('--date <date>', 'the day', dateArgument)
    .option('--station <station>', 'station; the first one otherwise')
    .option('--layout <layout>', 'of text: one the station keeps by its name, a JSON file, or “standin”')
    .option('--dry-run', 'tell what would happen and write nothing', false)
    .option('--json', 'answer as JSON', false)
    .action(importAsRun);
}

async function importAsRun(file: string, options: Options): Promise<void> {
  const asked = async (kept: readonly KeptLayout[]): Promise<AsRunRequest> => {
    const { layout: named } = options;
    const layout = named === undefined ? null : named === 'standin' ? AS_RUN_LAYOUT : await layoutOf(named, kept);
    return { text: await textOf(file, layout), fileName: path.basename(file), layout, dryRun: options.dryRun };
  };
  const outcome = await withData<AsRunOutcome>(options.data, {
    async here(services) {
      const { id } = await stationOf(services, options.station);
      const given = await asked(await services.trafficSettings.layouts(id));
      return services.asRun.take(programAt(id, 'command line'), options.date, given);
    },
    async through(server) {
      const { id } = await stationOf(server, options.station);
      const { layouts } = await server.get<TrafficSetUp>(`stations/${id}/traffic-settings`);
      return server.send<AsRunOutcome>('POST', `stations/${id}/as-run/${options.date}`, await asked(layouts));
    },
  });
  const differences = outcome.day.lines.filter(isDifference);
  if (differences.some(({ decision }) => decision === null)) process.exitCode = EXIT.needsPerson;
  const { rows, known } = outcome;
  if (options.json) printJson({ rows, known, differences });
  else process.stdout.write(`${[inWords(outcome, options.dryRun), ...differences.map(lineInWords)].join('\n')}\n`);
}

function inWords({ rows, known, day }: AsRunOutcome, dryRun: boolean): string {
  const asPlanned = day.lines.filter(({ is }) => is === 'as planned').length;
  return `${rows} plays ${dryRun ? 'would be ' : ''}imported, ${known} of them known already; ${asPlanned} rows as planned`;
}

function lineInWords({ is, why, planned, aired }: AsRunOutcome['day']['lines'][number]): string {
  const shown = planned ?? aired;
  return `  ${is}${why === '' ? '' : ` (${why})`}: ${[shown?.title, shown?.artist].filter(Boolean).join(', ')}`;
}
