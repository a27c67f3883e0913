import { handOverSettings, type HandOverSettings, type Output, type OutputForm } from '@fuller/contracts';
import { encodingsOf, fileNameOf, layoutFault, nameKey } from '@fuller/core';
import type { StationActor } from '../actor.js';
import {
  OutputNightEntity,
  OutputSecretEntity,
  PlayerOutputEntity,
  type PlayerOutputRecord,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { staleRevision } from '../store/change-set.js';
import { isSame } from '../store/same-value.js';
import { ofActiveStations } from '../stations/active-stations.js';
import type { Store, Written } from '../store/store.js';
import type { ExchangeRoots } from './exchange-roots.js';

/** A station that has set up none has this one. */
const standardOf = (stationId: string): Output => ({
  id: `playlist-${stationId}`,
  revision: 0,
  name: 'Playlist',
  files: handOverSettings({ pattern: '{station}_{date}.m3u8', hourly: false }),
  target: { kind: 'folder', folder: null },
  nightly: null,
  hasPassword: false,
});
const MOST_OUTPUTS = 30;

/** The outputs of stations: how files are made, and where they go. */
export class OutputService {
  constructor(
    private readonly store: Store,
    private readonly roots: ExchangeRoots,
  ) {}

  async list(stationId: string, em: Em = this.store.read): Promise<Output[]> {
    const rows = await em.find(PlayerOutputEntity, { stationId }, { orderBy: { position: 'asc', name: 'asc' } });
    if (rows.length === 0) return [standardOf(stationId)];
    const secrets = await em.find(OutputSecretEntity, { id: { $in: rows.map(({ id }) => id) } });
    const known = new Set(secrets.map(({ id }) => id));
    return rows.map((row) => shown(row, known.has(row.id)));
  }

  /** Every output of every station that writes by itself. */
  async nightly(): Promise<(Output & { readonly stationId: string })[]> {
    const rows = await this.store.read.find(PlayerOutputEntity, { nightly: { $ne: null } });
    const active = await ofActiveStations(this.store.read, rows, ({ stationId }) => stationId);
    return active.map((row) => ({ ...shown(row, false), stationId: row.stationId }));
  }

  async mustFind(stationId: string, id: string): Promise<Output> {
    const found = (await this.list(stationId)).find((output) => output.id === id);
    if (!found) throw notFound('output', id);
    return found;
  }

  async passwordOf(id: string): Promise<string> {
    return (await this.store.read.findOne(OutputSecretEntity, { id }))?.password ?? '';
  }

  /** Adds an output under an id, or changes the one that has it. */
  async save(
    { stationId, clientId }: StationActor,
    id: string,
    { revision, password, ...form }: OutputForm,
  ): Promise<Written<void>> {
    if (form.target.kind === 'folder' && form.target.folder !== null) await this.roots.folderAt(form.target.folder);
    refuseUnwritable(form.files);
    const label = revision === 0 ? `Add the output ${form.name}` : `Change the output ${form.name}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const others = await changes.em.find(PlayerOutputEntity, { stationId });
      const before = others.find((one) => one.id === id);
      refuseClash(
        form,
        others.filter((one) => one.id !== id),
      );
      const row = { ...form, nameKey: nameKey(form.name) };
      // A new time counts from now on.
      if (!isSame(before?.nightly ?? null, form.nightly)) await changes.em.nativeDelete(OutputNightEntity, { id });
      if (before) await changes.update('playerOutput', id, row, revision);
      else if (revision !== 0) throw staleRevision('output');
      else {
        // An id is a key of the whole table: another station may have it.
        if (await changes.find('playerOutput', id)) throw notFound('output', id);
        if (others.length >= MOST_OUTPUTS)
          throw new FullerError('INVALID', `A station has ${MOST_OUTPUTS} outputs at most.`, 'name');
        const position = Math.max(-1, ...others.map((one) => one.position)) + 1;
        await changes.insert('playerOutput', [{ ...row, id, revision: 1, stationId, position }]);
      }
      if (password === '') await changes.em.nativeDelete(OutputSecretEntity, { id });
      else if (password !== undefined) await changes.em.upsert(OutputSecretEntity, { id, password });
    });
  }

  async remove({ stationId, clientId }: StationActor, id: string): Promise<Written<void>> {
    const { name } = await this.mustFind(stationId, id);
    return this.store.write({ clientId, stationId, label: `Remove the output ${name}` }, async (changes) => {
      await changes.remove('playerOutput', id);
    });
  }
}

function shown({ id, revision, name, files, target, nightly }: PlayerOutputRecord, hasPassword: boolean): Output {
  return { id, revision, name, files, target, nightly: nightly ?? null, hasPassword };
}

/** What would fail with every file is refused before it is kept: at night nobody would see it. */
function refuseUnwritable({ pattern, hourly, layout, format, encoding }: HandOverSettings): void {
  const named = fileNameOf(pattern, { ...SAMPLE, hour: hourly ? 6 : null });
  if (!named.ok) throw new FullerError('INVALID', named.why, 'pattern');
  const fault = layout && layoutFault(layout);
  if (fault) throw new FullerError('INVALID', fault, 'layout');
  if (encoding !== null && !encodingsOf(format).includes(encoding))
    throw new FullerError('INVALID', `A ${format} file is always written in UTF-8.`, 'encoding');
}

const SAMPLE = { station: 'Station', date: '2026-11-23', hour: null, hourRepeat: 0 };

/** Two outputs of one name, or whose files would replace each other's, are refused. */
function refuseClash(form: Omit<OutputForm, 'revision' | 'password'>, others: readonly PlayerOutputRecord[]): void {
  if (others.some((one) => one.nameKey === nameKey(form.name)))
    throw new FullerError('NAME_TAKEN', `There is an output “${form.name}” already.`, 'name');
  const name = nameOfFiles(form);
  const same = others.find(
    (one) => JSON.stringify(one.target) === JSON.stringify(form.target) && nameOfFiles(one) === name,
  );
  if (same)
    throw new FullerError('INVALID', `The output “${same.name}” writes files of the same name there.`, 'pattern');
}

function nameOfFiles({ files: { pattern, hourly, zip } }: { readonly files: HandOverSettings }): string {
  const made = fileNameOf(pattern, { ...SAMPLE, hour: hourly ? 6 : null });
  return `${made.ok ? made.name.toLowerCase() : pattern}${zip ? '.zip' : ''}`;
}
