import { existsSync } from 'node:fs';
import path from 'node:path';
import type { ImportSession, ImportSummary } from '@fuller/contracts';
import { planImport } from '@fuller/core';
import { ColumnMappingEntity } from '../db/entities/index.js';
import type { Compute } from '../jobs/compute.js';
import type { RunningJob } from '../jobs/job-runner.js';
import { moveFile } from '../library/audio-files.js';
import type { AudioRoots } from '../library/audio-roots.js';
import type { ChangeSet } from '../store/change-set.js';
import { ImportRows, type OpenImport } from './import-rows.js';
import { summarise } from './import-summary.js';
import { writePlan } from './import-write.js';
import { existingItems } from '../db/queries/items.js';
import type { Store } from '../store/store.js';

/** What an import works with, in whatever thread it runs. */
export interface ImportTools {
  readonly store: Store;
  readonly compute: Compute;
  readonly now: () => number;
  readonly audioRoots: AudioRoots;
}

/** What the import would do; writes nothing. */
export async function summariseImport(tools: ImportTools, open: OpenImport, job: RunningJob): Promise<ImportSummary> {
  const rows = await rowsOf(tools).read(open, job);
  job.progress(0.9, 'Comparing with the library');
  const plan = planImport(rows.drafts, await existingItems(tools.store.read));
  return summarise(tools.store.read, open.stationId, rows, plan);
}

/** Writes the import, all or nothing; `category` is where items go whose row names none. */
export async function writeImport(
  tools: ImportTools,
  open: OpenImport,
  clientId: string,
  category: string | null,
  job: RunningJob,
): Promise<{ readonly activityId: string | null; readonly summary: ImportSummary }> {
  const { stationId, view } = open;
  const reading = rowsOf(tools);
  const rows = await reading.read(open, job);
  const dropped = view.source === 'dropped' ? await reading.droppedFiles(open) : [];
  const moves = dropped
    .filter(({ there }) => !there)
    .map(({ from, stored }) => ({ from, to: path.join(tools.audioRoots.own, stored) }));
  try {
    job.progress(0.4, 'Comparing with the library');
    const plan = planImport(rows.drafts, await existingItems(tools.store.read));
    const summary = await summarise(tools.store.read, stationId, rows, plan);
    const label = `Import ${path.basename(view.name)}`;
    const { activityId } = await tools.store.batches.write({ clientId, stationId, label }, async (batches) => {
      await writePlan(batches, stationId, plan, { category, options: view.options, job });
      await batches.batch((changes) => rememberMapping(changes, stationId, view));
      for (const { from, to } of moves) await moveFile(from, to);
      job.signal.throwIfAborted();
    });
    return { activityId, summary };
  } catch (error) {
    for (const { from, to } of moves) if (existsSync(to) && !existsSync(from)) await moveFile(to, from);
    throw error;
  }
}

function rowsOf({ store, compute, now, audioRoots }: ImportTools): ImportRows {
  return new ImportRows(store, compute, now, audioRoots);
}

/** What the columns of a table are called, as one text. */
export function columnsKey(columns: readonly string[]): string {
  return columns.join('\u001f');
}

async function rememberMapping(changes: ChangeSet, stationId: string, view: ImportSession): Promise<void> {
  if (!view.settings) return;
  const { mapping } = view.settings;
  await changes.em.upsert(ColumnMappingEntity, { stationId, columns: columnsKey(view.columns), mapping });
}
