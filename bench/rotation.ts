import {
  elementAt,
  lookUp,
  addDays,
  categorySpread,
  generateDay,
  hourSpread,
  hoursOfDay,
  localTimeOf,
  slotsByHour,
  StationModel,
  weekSlots,
  type StationPlay,
} from '@fuller/core';
import { VALE } from '@fuller/demo';
import type { Services } from '@fuller/server';
import { ms, table } from './table.js';

const DAYS = 56;
const REMEMBERED_DAYS = 28;

interface Eight {
  readonly perDay: number;
  readonly open: number;
  readonly categories: ReadonlyMap<
    string,
    { readonly spread: number; readonly leastRest: number; readonly plays: string }
  >;
}

/** Eight weeks of the demo station, with and without plays moving round the hours: how well they do, and what that costs. */
export async function rotation({ logs }: Services, from: string): Promise<string> {
  const without = await eightWeeks({ logs }, from, false);
  const moving = await eightWeeks({ logs }, from, true);
  const rows = [...moving.categories].map(([id, now]) => {
    const before = lookUp(without.categories, id);
    const hours = (value: number): string => `${(value / 3_600_000).toFixed(0)} h`;
    return [
      id.replace('cat-', '').toUpperCase(),
      before.spread.toFixed(3),
      now.spread.toFixed(3),
      hours(before.leastRest),
      hours(now.leastRest),
      before.plays,
      now.plays,
    ];
  });
  return [
    table(
      'Hour spread over eight weeks of the demo (1 is chance, more is better)',
      ['category', 'without', 'moving', 'least rest without', 'moving', 'plays an item without', 'moving'],
      rows,
    ),
    table(
      'What it costs',
      ['', 'a day', 'open slots'],
      [
        ['without', ms(without.perDay), without.open],
        ['moving', ms(moving.perDay), moving.open],
      ],
    ),
  ].join('\n');
}

async function eightWeeks({ logs }: Pick<Services, 'logs'>, from: string, spreadHours: boolean): Promise<Eight> {
  const data = { ...(await logs.stationData(VALE, from)), spreadHours, nextLog: null };
  const model = new StationModel(data);
  const slots = weekSlots(data.plan, model);
  const plays = new Map<string, number[]>();
  let history: StationPlay[] = [...data.history];
  let open = 0;
  const startedAt = performance.now();
  for (let day = 0; day < DAYS; day++) {
    const date = addDays(from, day);
    const remembered = elementAt(hoursOfDay(addDays(date, -REMEMBERED_DAYS), data.timeZone), 0).startMs;
    history = history.filter(({ startMs }) => startMs >= remembered);
    const { log } = generateDay({ ...data, history }, { date, seed: day, previous: null, only: 'all' });
    const made = model.plays(log);
    history.push(...made);
    for (const { itemId, startMs } of made) plays.set(itemId, [...(plays.get(itemId) ?? []), startMs]);
    open += log.hours
      .flatMap((hour) => hour.entries)
      .filter((entry) => entry.kind === 'pick' && entry.itemId === null).length;
  }
  const perDay = (performance.now() - startedAt) / DAYS;
  const categories = new Map(
    data.musicCategories.flatMap((id) => {
      const own = slots.get(id);
      const items = (data.categories[id] ?? []).filter((item) => plays.has(item));
      if (!own || items.length === 0) return [];
      const byHour = slotsByHour(own);
      const hoursOf = (item: string): number[] => lookUp(plays, item).map((at) => localTimeOf(at, data.timeZone).hour);
      const gaps = items.flatMap((item) =>
        lookUp(plays, item)
          .slice(1)
          .map((at, i) => at - elementAt(lookUp(plays, item), i)),
      );
      const counts = items.map((item) => lookUp(plays, item).length);
      const spread = categorySpread(items.map((item) => hourSpread(hoursOf(item), byHour)));
      const range = `${Math.min(...counts)} to ${Math.max(...counts)}`;
      return [[id, { spread: spread ?? 0, leastRest: Math.min(...gaps), plays: range }] as const];
    }),
  );
  return { perDay, open, categories };
}
