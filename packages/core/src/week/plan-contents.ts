import { drawOf, itemOfLine, type Draw } from '../clocks/line.js';
import type { AirPlan } from './air-plan.js';

/** Everything a plan draws from: lines of clocks, picks of set lists, what is painted without a clock. */
export function drawsOfPlan({ clocks, setLists = [], week, dates }: AirPlan): Draw[] {
  const blocks = [...week.blocks, ...dates.flatMap((date) => date.blocks)];
  return [
    ...clocks.flatMap(({ lines }) => lines.flatMap((line) => drawOf(line) ?? [])),
    ...setLists.flatMap(({ rows }) =>
      rows.flatMap((row) => ('itemId' in row ? [] : [{ categoryId: row.categoryId, filter: row.filter ?? '' }])),
    ),
    ...blocks.flatMap(({ runs, id }) => (runs === 'draw' ? [{ categoryId: id, filter: '' }] : [])),
  ];
}

/** The items a plan names: lines of clocks, rows of set lists, announcements of shows. */
export function itemsOfPlan({ clocks, shows, setLists = [] }: AirPlan): string[] {
  return [
    ...clocks.flatMap(({ lines }) => lines.flatMap((line) => itemOfLine(line) ?? [])),
    ...shows.flatMap(({ announcementId }) => announcementId ?? []),
    ...setLists.flatMap(({ rows }) => rows.flatMap((row) => ('itemId' in row ? [row.itemId] : []))),
  ];
}

/** The set lists that clocks, the week and its dates play, by id. */
export function listsOfPlan({ clocks, week, dates }: Pick<AirPlan, 'clocks' | 'week' | 'dates'>): ReadonlySet<string> {
  const blocks = [...week.blocks, ...dates.flatMap((date) => date.blocks)];
  return new Set([
    ...clocks.flatMap(({ lines }) => lines.flatMap((line) => (line.kind === 'set list' ? [line.setListId] : []))),
    ...blocks.flatMap(({ runs, id }) => (runs === 'set list' ? [id] : [])),
  ]);
}
