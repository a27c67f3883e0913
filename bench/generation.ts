import {
  addDays,
  applyEdit,
  byHand,
  type DailyLog,
  elementAt,
  generateDay,
  LogInspector,
  openSlots,
  type StationData,
  StationModel,
} from '@fuller/core';
import { VALE } from '@fuller/demo';
import type { Services } from '@fuller/server';
import { ms, table, timed } from './table.js';

/** A library so many times as large: every item copied under other names. */
function enlarged(data: StationData, times: number): StationData {
  const copies = Array.from({ length: times }, (_, copy) => copy);
  const id = (item: string, copy: number): string => (copy === 0 ? item : `${item}-${copy}`);
  return {
    ...data,
    items: copies.flatMap((copy) =>
      data.items.map((item) => ({
        ...item,
        id: id(item.id, copy),
        title: `${item.title} ${copy}`,
        artistIds: item.artistIds.map((artist) => id(artist, copy)),
        ...(item.mainArtistIds ? { mainArtistIds: item.mainArtistIds.map((artist) => id(artist, copy)) } : {}),
      })),
    ),
    categories: Object.fromEntries(
      Object.entries(data.categories).map(([key, items]) => [
        key,
        copies.flatMap((copy) => items.map((item) => id(item, copy))),
      ]),
    ),
  };
}

/** Time to make a day of the demo station, and to judge one, as the library grows. */
export async function generation({ logs }: Services, today: string): Promise<string> {
  const date = addDays(today, 20);
  const data = await logs.stationData(VALE, date);
  const rows = [];
  for (const times of [1, 4, 16]) {
    const large = enlarged(data, times);
    const model = new StationModel(large);
    const make = () => generateDay(large, { date, seed: 1, previous: null, only: 'all' });
    const { log } = make();
    const entry = elementAt(log.hours, 12).entries.find((one) => one.kind === 'pick')!;
    rows.push([
      large.items.length,
      ms(await timed(5, make)),
      openSlots(log).length,
      new LogInspector(model, log).strains().length,
      ms(await timed(5, () => new LogInspector(model, log).strains())),
      ms(await timed(5, () => new LogInspector(model, log).candidates(entry.id))),
      ms(await timed(5, afterEdits(model, log))),
    ]);
  }
  return table(
    'Generating and judging a day',
    ['items', 'generate', 'open', 'strains', 'mark strains', 'rank candidates', 'both after an edit'],
    rows,
  );
}

/** Marks the whole log and ranks the candidates of a slot after one more edit, as the desk does: by what was worked out before. */
function afterEdits(model: StationModel, log: DailyLog): () => void {
  const picks = log.hours.flatMap(({ entries }) => entries.filter((one) => one.kind === 'pick' && one.itemId !== null));
  let inspector = new LogInspector(model, log);
  inspector.candidates(elementAt(picks, 0).id);
  let now = log;
  let at = 0;
  return () => {
    const entryId = elementAt(picks, (at += 5)).id;
    const outcome = applyEdit(now, byHand({ type: 'open', entryId }));
    if (!outcome.ok) throw new Error(outcome.why);
    now = outcome.log;
    inspector = inspector.moved(now)!;
    inspector.strains();
    inspector.candidates(entryId);
  };
}
