import path from 'node:path';
import {
  handOverSettings,
  type HandOverPreview,
  type HandOverRecord,
  type HandOverSettings,
  type HandOverState,
  type JobView,
} from '@fuller/contracts';
import { FORMAT_ENDINGS, OUTPUT_ENCODINGS, OUTPUT_FORMATS, SLASHES, type OutputFormat } from '@fuller/core';
import { dropParts, FullerError, placeFiles, programAt, type Services, UNWATCHED, writeParts } from '@fuller/server';
import { Command, Option } from 'commander';
import { AUDIO_ROOT, audioRoots, dateArgument, stationOf, withData } from '../data.js';
import { EXIT } from '../exit.js';
import { printJson, UsageError } from '../output.js';
import type { RemoteFuller } from '../remote.js';
import { layoutFrom } from './import-traffic.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly date: string;
  readonly out?: string;
  readonly output?: string;
  readonly format: OutputFormat;
  readonly layout?: string;
  readonly hourly: boolean;
  readonly pattern?: string;
  readonly encoding?: HandOverSettings['encoding'];
  readonly crlf: boolean;
  readonly prefix?: readonly string[];
  readonly slashes: HandOverSettings['slashes'];
  readonly keepCarts: boolean;
  readonly zip: boolean;
  readonly audioRoot?: readonly string[];
  readonly json: boolean;
}

export function exportCommand(): Command {
  return new Command('export')
    .description('Write a day’s log as files for a player, or hand it over by an output of the station')
    .requiredOption('--data <dir>', 'data folder')
    .option('--station <station>', 'station; the first one otherwise')
    .requiredOption('--date <date>', 'day', dateArgument)
    .option('--out <dir>', 'folder to write to')
    .option('--output <name>', 'an output of the station, or “all”, in place of a folder and what follows')
    .addOption(new Option('--format <format>', 'file format').choices([...OUTPUT_FORMATS]).default('m3u8'))
    .option('--layout <file>', 'layout of text as JSON (docs/layouts.md)')
    .option('--hourly', 'one file an hour', false)
    .option('--pattern <pattern>', 'file name, such as {station}_{date}_{HH}.m3u8')
    .addOption(new Option('--encoding <encoding>', 'encoding of the text').choices([...OUTPUT_ENCODINGS]))
    .option('--crlf', 'end lines with CR and LF', false)
    .option('--prefix <from=to...>', 'what the player’s machine has in place of a beginning of paths')
    .addOption(new Option('--slashes <which>', 'slashes in paths').choices([...SLASHES]).default('as they are'))
    .option('--keep-carts', 'name what has no audio by its cart', false)
    .option('--zip', 'all files in one zip', false)
    .option(...AUDIO_ROOT)
    .option('--json', 'answer as JSON', false)
    .action(exportDay);
}

async function exportDay(options: Options): Promise<void> {
  if ((options.out === undefined) === (options.output === undefined))
    throw new UsageError('name a folder with --out, or an output of the station with --output');
  if (options.output !== undefined) return handOver(options, options.output);
  await writeFiles(options, path.resolve(options.out ?? ''));
}

async function settingsOf(options: Options): Promise<HandOverSettings> {
  const { format, hourly, encoding, crlf, slashes, keepCarts, zip } = options;
  return handOverSettings({
    pattern: options.pattern ?? `{station}_{date}${hourly ? '_{HH}' : ''}${FORMAT_ENDINGS[format]}`,
    hourly,
    format,
    layout: options.layout === undefined ? null : await layoutFrom(options.layout),
    encoding: encoding ?? null,
    lineEnds: crlf ? 'CRLF' : 'LF',
    prefixes: (options.prefix ?? []).map(prefixOf),
    slashes,
    withoutAudio: keepCarts ? 'keep with cart' : 'hold back',
    zip,
  });
}

function prefixOf(text: string): { from: string; to: string } {
  const at = text.indexOf('=');
  if (at < 1) throw new UsageError(`--prefix: write ${text || 'it'} as FROM=TO`);
  return { from: text.slice(0, at), to: text.slice(at + 1) };
}

type Written = Pick<HandOverRecord, 'files' | 'entries' | 'folder'>;
type HeldBack = HandOverPreview['heldBack'];

async function writeFiles(options: Options, out: string): Promise<void> {
  const settings = await settingsOf(options);
  const { value, heldBack } = await withData<{ readonly value: Written; readonly heldBack: HeldBack }>(
    options.data,
    {
      async here(services) {
        const station = await stationOf(services, options.station);
        const files = await services.handOver.files(station.id, options.date, settings);
        const actor = programAt(station.id, 'command line');
        const written = await services.handOver.write(actor, options.date, settings, out);
        return { value: written.value, heldBack: files.heldBack };
      },
      async through(server) {
        const station = await stationOf(server, options.station);
        const where = `stations/${station.id}/hand-over`;
        const asked = { date: options.date, ...settings };
        const { heldBack } = await server.send<HandOverPreview>('POST', `${where}/preview`, asked);
        return {
          value: server.isElsewhere
            ? await takeFiles(server, where, asked, out)
            : await server.send<HandOverRecord>('POST', where, { ...asked, folder: out }),
          heldBack,
        };
      },
    },
    audioRoots(options.audioRoot),
  );
  if (heldBack.some(({ why }) => !FROM_ELSEWHERE.has(why))) process.exitCode = EXIT.needsPerson;
  if (options.json) {
    const { folder, files, entries } = value;
    const held = heldBack.map(({ title, why, hourIndex }) => ({ hour: hourIndex, title, why }));
    printJson({ folder, files, entries, heldBack: held });
    return;
  }
  const counts = new Map<string, number>();
  for (const { why } of heldBack) counts.set(why, (counts.get(why) ?? 0) + 1);
  const left = [...counts].map(([why, count]) => `${count} left out: ${why}`);
  process.stdout.write(`${[inWords(value), ...left].join('\n')}\n`);
}

/** Writes here what a server elsewhere makes: every file whole or none, as the server itself writes them. */
async function takeFiles(server: RemoteFuller, where: string, asked: object, out: string): Promise<Written> {
  const taken = await server.send<{ record: HandOverRecord; files: { name: string; content: string }[] }>(
    'POST',
    `${where}/take`,
    asked,
  );
  const files = taken.files.map(({ name, content }) => ({ name, bytes: Buffer.from(content, 'base64') }));
  const foreign = files.find(({ name }) => path.basename(name) !== name || name === '..');
  if (foreign) throw new UsageError(`the server named a file outside the folder: ${foreign.name}`);
  const { id, files: names, entries } = taken.record;
  const parts = { id, folder: out, files: names, manifest: files.at(-1)?.name ?? null };
  try {
    await writeParts(out, id, files);
    await placeFiles(parts);
  } catch (error) {
    await dropParts(parts);
    throw new UsageError(`${out} cannot be written: ${error instanceof Error ? error.message : String(error)}`);
  }
  return { folder: out, files: names, entries };
}

/** What is left out and plays from elsewhere; for anything else a person is needed. */
const FROM_ELSEWHERE: ReadonlySet<string> = new Set(['break', 'left out', 'kept out', 'no cues']);

function inWords({ entries, files, folder }: Written): string {
  return `${entries} entries in ${files.length} ${files.length === 1 ? 'file' : 'files'} in ${folder}`;
}

/** An output and what came of it. */
interface HandedOver {
  readonly output: string;
  readonly done: boolean;
  readonly message: string;
}

async function handOver(options: Options, name: string): Promise<void> {
  const { date } = options;
  const done = await withData<HandedOver[]>(
    options.data,
    {
      async here(services) {
        const station = await stationOf(services, options.station);
        const outputs = chosen((await services.handOver.state(station.id, date)).outputs, name);
        return inOrder(outputs, (id) => handOverHere(services, station.id, date, id));
      },
      async through(server) {
        const station = await stationOf(server, options.station);
        const { outputs } = await server.get<HandOverState>(`stations/${station.id}/hand-over/${date}`);
        return inOrder(chosen(outputs, name), (id) => handOverThrough(server, station.id, date, id));
      },
    },
    audioRoots(options.audioRoot),
  );
  if (done.some((one) => !one.done)) process.exitCode = EXIT.needsPerson;
  if (options.json) printJson({ date, outputs: done });
  else process.stdout.write(done.map((one) => `${one.output}: ${one.message}\n`).join(''));
}

function chosen(outputs: HandOverState['outputs'], name: string): HandOverState['outputs'] {
  const found = name === 'all' ? outputs : outputs.filter((one) => one.name.toLowerCase() === name.toLowerCase());
  if (found.length > 0) return found;
  throw new UsageError(`there is no output “${name}”; there are ${outputs.map((one) => one.name).join(', ')}`);
}

async function inOrder(
  outputs: HandOverState['outputs'],
  work: (id: string) => Promise<Omit<HandedOver, 'output'>>,
): Promise<HandedOver[]> {
  const done: HandedOver[] = [];
  for (const { id, name } of outputs) done.push({ output: name, ...(await work(id)) });
  return done;
}

async function handOverHere(
  { handOver: service }: Services,
  stationId: string,
  date: string,
  id: string,
): Promise<Omit<HandedOver, 'output'>> {
  try {
    const { value } = await service.handOver(programAt(stationId, 'command line'), date, id, UNWATCHED);
    return { done: true, message: inWords(value) };
  } catch (error) {
    if (error instanceof FullerError && error.code === 'INVALID') return { done: false, message: error.message };
    throw error;
  }
}

async function handOverThrough(
  server: RemoteFuller,
  stationId: string,
  date: string,
  id: string,
): Promise<Omit<HandedOver, 'output'>> {
  const job = await server.send<JobView>('POST', `stations/${stationId}/hand-over/${date}/outputs/${id}`, {});
  const { state, message } = await server.endOf(job);
  return { done: state === 'done', message: message ?? state };
}
