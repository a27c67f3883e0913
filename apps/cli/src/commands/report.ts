import { rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { reportAddress, ReportQuery, type AskedReport, type KeptReport, type ReportAnswer } from '@fuller/contracts';
import { MOVING_RANGES, nameKey, REPORT_KINDS, reportCsv, type MovingRange, type ReportKind } from '@fuller/core';
import { reportPdf } from '@fuller/server';
import { Command, Option } from 'commander';
import * as v from 'valibot';
import { dateArgument, stationOf, withData } from '../data.js';
import { printJson, UsageError } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly kept?: string;
  readonly report?: ReportKind;
  readonly range?: MovingRange;
  readonly from?: string;
  readonly to?: string;
  readonly out?: string;
  readonly json: boolean;
}

type Format = 'pdf' | 'csv' | 'json';

export function reportCommand(): Command {
  return new Command('report')
    .description('Make a report over what aired and was planned, or one that is kept under a name')
    .requiredOption('--data <dir>', 'data folder')
    .option('--station <station>', 'station; the first one otherwise')
    .option('--kept <name>', 'a report kept under a name')
    .addOption(new Option('--report <report>', 'a report by its kind').choices([...REPORT_KINDS]))
    .addOption(new Option('--range <range>', 'dates that move with today').choices([...MOVING_RANGES]))
    .option('--from <date>', 'first date', dateArgument)
    .option('--to <date>', 'last date', dateArgument)
    .option('--out <file>', 'file to write, ending in .pdf, .csv or .json; its sentence is printed without one')
    .option('--json', 'answer as JSON', false)
    .action(makeReport);
}

async function makeReport(options: Options): Promise<void> {
  if ((options.kept === undefined) === (options.report === undefined))
    throw new UsageError('name a kind with --report, or a report that is kept with --kept');
  const format = options.out === undefined ? null : formatOf(options.out);
  const answer = await withData<ReportAnswer>(options.data, {
    async here(services) {
      const station = await stationOf(services, options.station);
      const { report, asked } = wanted(options, await services.keptReports.list(station.id));
      return services.reports.report(station.id, report, asked);
    },
    async through(server) {
      const station = await stationOf(server, options.station);
      const where = `stations/${station.id}`;
      const kept = options.kept === undefined ? [] : await server.get<KeptReport[]>(`${where}/kept-reports`);
      const { report, asked } = wanted(options, kept);
      return server.get<ReportAnswer>(`${where}/reports/${report}?${new URLSearchParams(reportAddress(asked))}`);
    },
  });
  if (options.out !== undefined && format !== null) await write(options.out, await contentOf(answer, format));
  if (options.json) return printJson({ ...answer, file: options.out === undefined ? null : path.resolve(options.out) });
  process.stdout.write(`${answer.sentence}\n`);
}

/** What is asked: a kept report, with another range where one is named, or a kind. */
function wanted(options: Options, kept: readonly KeptReport[]): { report: ReportKind; asked: AskedReport } {
  const { range, from, to } = options;
  const dates = range !== undefined || from !== undefined || to !== undefined;
  const asked = dates || options.kept === undefined ? rangeOf({ range, from, to }) : null;
  if (options.report !== undefined) return { report: options.report, asked: asked! };
  const name = options.kept!;
  const found = kept.find((one) => nameKey(one.name) === nameKey(name));
  if (!found)
    throw new UsageError(
      `there is no report kept as “${name}”${kept.length ? `; there are ${kept.map((one) => one.name).join(', ')}` : ''}`,
    );
  return { report: found.report, asked: asked ? { ...found.asked, range: asked.range } : found.asked };
}

function rangeOf(named: Pick<Options, 'range' | 'from' | 'to'>): AskedReport {
  const isNamed = Object.values(named).some((one) => one !== undefined);
  const result = v.safeParse(ReportQuery, isNamed ? named : { range: 'last 7 days' });
  if (!result.success) throw new UsageError('name a --range, or both --from and --to, the earlier first');
  return result.output;
}

function formatOf(file: string): Format {
  const ending = path.extname(file).slice(1).toLowerCase();
  if (ending === 'pdf' || ending === 'csv' || ending === 'json') return ending;
  throw new UsageError(`${file} ends neither in .pdf nor in .csv nor in .json`);
}

async function contentOf(answer: ReportAnswer, format: Format): Promise<string | Buffer> {
  if (format === 'pdf') return reportPdf(answer);
  return format === 'csv' ? reportCsv(answer) : `${JSON.stringify(answer, null, 2)}\n`;
}

/** Whole or not at all: whoever sends the file on never finds half of it. */
async function write(file: string, content: string | Buffer): Promise<void> {
  const beside = `${file}.part`;
  try {
    await writeFile(beside, content);
    await rename(beside, file);
  } catch (error) {
    await rm(beside, { force: true });
    throw new UsageError(`${file} cannot be written: ${error instanceof Error ? error.message : String(error)}`);
  }
}
