import { elementAt } from '@fuller/core';

/** Pages of the guide by the place they are about; deeper places first. */
const PAGES: readonly (readonly [path: string, page: string])[] = [
  ['begin', 'begin'],
  ['library/import', 'import'],
  ['library', 'library'],
  ['rotation', 'rotation'],
  ['clocks', 'clocks'],
  ['week', 'week'],
  ['rules', 'rules'],
  ['breaks', 'breaks'],
  ['logs', 'logs'],
  ['hand-over', 'hand-over'],
  ['on-air', 'on-air'],
  ['insight', 'insight'],
  ['stations', 'stations'],
  ['people', 'people'],
  ['activity', 'people'],
  ['backups', 'people'],
];

/** The page of the guide about an address such as `/osier-vale/library/import?…`; the first page where none is. */
export function helpPageOf(url: string): string {
  const path = elementAt(url.split(/[?#]/), 0).split('/').slice(2).join('/');
  return PAGES.find(([place]) => path === place || path.startsWith(`${place}/`))?.[1] ?? 'start';
}
