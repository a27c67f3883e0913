import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { ImportSettings } from '@fuller/contracts';
import { Command } from 'commander';
import * as v from 'valibot';
import { stationOf, UNWATCHED, withData } from '../data.js';
import { printJson, UsageError } from '../output.js';

interface Options {
  readonly data: string;
  readonly station?: string;
  readonly dryRun: boolean;
  readonly mapping?: string;
  readonly category?: string;
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
    .option('--json', 'answer as JSON', false)
    .action(importLibrary);
  return new Command('import').description('Bring things in').addCommand(library);
}

async function importLibrary(where: string, options: Options): Promise<void> {
  const found = await stat(where).catch(() => null);
  if (!found) throw new UsageError(`there is no file or folder ${where}`);
  await withData(options.data, async (services) => {
    const { imports } = services;
    const station = await stationOf(services, options.station);
    const absolute = path.resolve(where);
    const session = found.isDirectory()
      ? await imports.openFolder(station.id, absolute)
      : await imports.openTable(station.id, absolute, path.basename(where));
    if (options.mapping && session.settings) {
      await imports.configure(session.id, { ...session.settings, ...(await mappingOf(options.mapping)) });
    }
    if (options.dryRun) await imports.dryRun(session.id, UNWATCHED);
    else await imports.commit(session.id, 'command line', UNWATCHED, options.category ?? null);
    const summary = imports.get(session.id).summary!;
    const { read, added, changed, rejectedRows: rejected } = summary;
    if (options.json) printJson({ read, added, changed, rejected });
    else {
      const lines = rejected.map(({ row, column, why }) => `  row ${row}${column ? `, ${column}` : ''}: ${why}`);
      const counts = `${read} read, ${added} ${options.dryRun ? 'would be ' : ''}added, ${changed} changed, ${summary.rejected} rejected`;
      process.stdout.write([counts, ...lines, ''].join('\n'));
    }
  });
}

const MappingFile = v.partial(ImportSettings);

async function mappingOf(file: string): Promise<v.InferOutput<typeof MappingFile>> {
  const text = await readFile(file, 'utf8').catch(() => {
    throw new UsageError(`there is no file ${file}`);
  });
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new UsageError(`${file}: ${error instanceof Error ? error.message : 'is not JSON'}`);
  }
  const read = v.safeParse(MappingFile, value);
  if (!read.success) throw new UsageError(`${file}: ${v.getDotPath(read.issues[0]) ?? ''} ${read.issues[0].message}`);
  return read.output;
}
