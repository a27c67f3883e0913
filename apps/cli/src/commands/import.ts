import { stat } from 'node:fs/promises';
import path from 'node:path';
import { ImportSettings, type ImportSession, type ImportSummary, type JobView } from '@fuller/contracts';
import type { Services } from '@fuller/server';
import { Command } from 'commander';
import * as v from 'valibot';
import { UNWATCHED } from '@fuller/server';
import { AUDIO_ROOT, audioRoots, stationOf, withData } from '../data.js';
import type { RemoteFuller } from '../remote.js';
import { printJson, readJson, UsageError } from '../output.js';
import { importAsRunCommand } from './import-asrun.js';
import { importTrafficCommand } from './import-traffic.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly dryRun: boolean;
  readonly mapping?: string;
  readonly category?: string;
  readonly audioRoot?: readonly string[];
  readonly json: boolean;
}

export function importCommand(): Command {
  const library = new Command('library')
    .description('Import songs from a delimited text file or a folder of tagged audio')
    .argument('<path>', 'file or folder')
    .requiredOption('--data <dir>', 'data folder')
    .option('--station <station>', 'station that sees the items; the first one otherwise')
    .option('--dry-run', 'tell what would happen and write nothing', false)
    .option('--mapping <file>', 'JSON with any of encoding, delimiter, header, mapping')
    .option('--category <name>', 'category, by name or code, for items whose row names none')
    .option(...AUDIO_ROOT)
    .option('--json', 'answer as JSON', false)
    .action(importLibrary);
  return new Command('import')
    .description('Bring things in')
    .addCommand(library)
    .addCommand(importTrafficCommand())
    .addCommand(importAsRunCommand());
}

async function importLibrary(where: string, options: Options): Promise<void> {
  const found = await stat(where).catch(() => null);
  if (!found) throw new UsageError(`there is no file or folder ${where}`);
  const absolute = path.resolve(where);
  const mapping = options.mapping ? await mappingOf(options.mapping) : null;
  const summary = await withData<ImportSummary>(
    options.data,
    {
      here: (services) => importHere(services, absolute, found.isDirectory(), mapping, options),
      through: (server) => importThrough(server, absolute, found.isDirectory(), mapping, options),
    },
    audioRoots(options.audioRoot),
  );
  const { read, added, changed, rejectedRows: rejected } = summary;
  if (options.json) return printJson({ read, added, changed, rejected });
  const lines = rejected.map(({ row, column, why }) => `  row ${row}${column ? `, ${column}` : ''}: ${why}`);
  const without = summary.withoutLength
    ? [`  ${summary.withoutLength} without a length; nothing schedules them until they have one`]
    : [];
  const counts = `${read} read, ${added} ${options.dryRun ? 'would be ' : ''}added, ${changed} changed, ${summary.rejected} rejected`;
  process.stdout.write([counts, ...without, ...lines, ''].join('\n'));
}

type Mapping = v.InferOutput<typeof MappingFile> | null;

async function importHere(
  services: Services,
  absolute: string,
  isFolder: boolean,
  mapping: Mapping,
  options: Options,
): Promise<ImportSummary> {
  const { imports } = services;
  const station = await stationOf(services, options.station);
  const session = isFolder
    ? await imports.openFolder(station.id, absolute)
    : await imports.openTable(station.id, absolute, path.basename(absolute));
  if (mapping && session.settings) await imports.configure(session.id, { ...session.settings, ...mapping });
  if (options.dryRun) await imports.dryRun(session.id, UNWATCHED);
  else await imports.commit(session.id, 'command line', UNWATCHED, options.category ?? null);
  const summary = imports.get(session.id).summary!;
  await imports.close(session.id);
  return summary;
}

async function importThrough(
  server: RemoteFuller,
  absolute: string,
  isFolder: boolean,
  mapping: Mapping,
  options: Options,
): Promise<ImportSummary> {
  const station = await stationOf(server, options.station);
  const where = `stations/${station.id}/imports`;
  const session = isFolder
    ? await server.send<ImportSession>('POST', `${where}/folder`, { folder: absolute })
    : await server.upload<ImportSession>(where, absolute);
  if (mapping && session.settings)
    await server.send('PUT', `imports/${session.id}/settings`, { ...session.settings, ...mapping });
  const job = options.dryRun
    ? await server.send<JobView>('POST', `imports/${session.id}/dry-run`)
    : await server.send<JobView>('POST', `imports/${session.id}/commit`, { category: options.category ?? null });
  await server.ended(job);
  const { summary } = await server.get<ImportSession>(`imports/${session.id}`);
  await server.send('DELETE', `imports/${session.id}`);
  return summary!;
}

const MappingFile = v.partial(ImportSettings);

async function mappingOf(file: string): Promise<v.InferOutput<typeof MappingFile>> {
  const value = await readJson(file);
  const read = v.safeParse(MappingFile, value);
  if (!read.success) throw new UsageError(`${file}: ${v.getDotPath(read.issues[0]) ?? ''} ${read.issues[0].message}`);
  return read.output;
}
