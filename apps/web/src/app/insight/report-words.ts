import type { ReportAnswer } from '@fuller/contracts';
import { isDate, numberText, type ReportLink } from '@fuller/core';
import { dayYearText } from '../shared/text/when';

type Column = ReportAnswer['columns'][number];

/** A number of a report as its column shows it. */
export function cellText(value: string | number | null, { unit }: Column): string {
  if (value === null) return '–';
  if (typeof value === 'string') return isDate(value) ? dayYearText(value) : value;
  return numberText(value, unit);
}

/** Where a mark or a row leads: the address of its place and the query in it. */
export function placeOf(
  stationId: string,
  { to, id }: ReportLink,
): { readonly commands: readonly string[]; readonly query: Readonly<Record<string, string>> } {
  const at = (commands: readonly string[], query: Record<string, string> = {}) => ({
    commands: ['/', stationId, ...commands],
    query,
  });
  switch (to) {
    case 'item':
      return at(['library'], { item: id, part: 'plays' });
    case 'artist':
      return at(['library'], { q: `artist:"${id.replaceAll('"', '')}"` });
    case 'filter':
      return at(['library'], { q: id });
    case 'category':
      return at(['rotation'], { category: id });
    case 'log':
      return at(['logs', id]);
    case 'rule':
      return at(['rules'], { rule: id });
    case 'sponsor':
      return at(['breaks', 'sponsors'], { sponsor: id });
    case 'requests':
      return at(['on-air', 'requests']);
  }
}
