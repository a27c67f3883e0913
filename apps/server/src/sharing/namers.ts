import type { Use } from '@fuller/contracts';
import { parseFilter, ruleSentence, type FilterVocabulary } from '@fuller/core';
import {
  ClockEntity,
  DatePlanEntity,
  PoolEntity,
  RollingSettingsEntity,
  RuleEntity,
  SetListEntity,
  ShowEntity,
  SponsorEntity,
  WeekPlanEntity,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { namesForRules } from '../rules/rule-names.js';
import { ruleOf } from '../rules/rule-rows.js';
import { referencesOf, type NamingKind, type NamingRows, type Reference } from './references.js';

/** A row that names other things by their ids, and the station it is of; null where it is shared. */
export interface Namer<K extends NamingKind = NamingKind> {
  readonly thing: K;
  readonly id: string;
  readonly stationId: string | null;
  readonly use: Use;
  readonly row: NamingRows[K];
}

/** A text that names categories by code or name. */
interface Filtered {
  readonly stationId: string | null;
  readonly use: Use;
  readonly filter: string;
}

const FRESH = { disableIdentityMap: true } as const;

/** Every row that names others, of all stations. */
export async function namersOf(em: Em): Promise<Namer[]> {
  const names = await namesForRules(em);
  const named =
    <K extends NamingKind>(thing: K, kind: Use['kind']) =>
    (
      row: NamingRows[K] & { readonly id: string; readonly stationId?: string | null; readonly name: string },
    ): Namer => ({ thing, id: row.id, stationId: row.stationId ?? null, use: { kind, name: row.name }, row });
  return [
    ...(await em.find(ClockEntity, {}, FRESH)).map(named('clock', 'clock')),
    ...(await em.find(SetListEntity, {}, FRESH)).map(named('setList', 'set list')),
    ...(await em.find(ShowEntity, {}, FRESH)).map(named('show', 'show')),
    ...(await em.find(DatePlanEntity, {}, FRESH)).map(named('datePlan', 'date')),
    ...(await em.find(SponsorEntity, {}, FRESH)).map(named('sponsor', 'sponsor')),
    ...(await em.find(RuleEntity, {}, FRESH)).map((row): Namer => ({
      thing: 'rule',
      id: row.id,
      stationId: row.stationId ?? null,
      use: { kind: 'rule', name: ruleSentence(ruleOf(row), names) },
      row,
    })),
    ...(await em.find(WeekPlanEntity, {}, FRESH)).map((row): Namer => ({
      thing: 'week',
      id: row.id,
      stationId: row.id,
      use: { kind: 'week', name: '' },
      row,
    })),
    ...(await em.find(RollingSettingsEntity, {}, FRESH)).map((row): Namer => ({
      thing: 'rollingSettings',
      id: row.id,
      stationId: row.id,
      use: { kind: 'live queue', name: '' },
      row,
    })),
  ];
}

/** Whether a namer names a thing. */
export function namesThing({ thing, row }: Namer, { kind, id }: Reference): boolean {
  return referencesOf(thing, row).some((one) => one.kind === kind && one.id === id);
}

/** Every filter that can name a category, of all stations. */
export async function filtersOf(em: Em, namers: readonly Namer[]): Promise<Filtered[]> {
  const pools = await em.find(PoolEntity, {}, FRESH);
  return [
    ...pools.map(({ stationId, name, filter }) => ({
      stationId: stationId ?? null,
      use: { kind: 'pool' as const, name },
      filter,
    })),
    ...namers.flatMap(({ thing, stationId, use, row }) =>
      filtersIn(thing, row).map((filter) => ({ stationId, use, filter })),
    ),
  ];
}

function filtersIn(thing: NamingKind, row: NamingRows[NamingKind]): string[] {
  const rows =
    thing === 'clock'
      ? (row as NamingRows['clock']).lines
      : thing === 'setList'
        ? (row as NamingRows['setList']).rows
        : [];
  return rows.flatMap((one) => ('filter' in one && one.filter ? [one.filter] : []));
}

/** The ids of the categories a filter names. */
export function categoriesInFilter(filter: string, vocabulary: FilterVocabulary): string[] {
  if (!filter.includes(':')) return [];
  const parsed = parseFilter(filter, vocabulary);
  return parsed.ok ? parsed.filter.flatMap(({ test }) => (test.on === 'category' ? test.any : [])) : [];
}

/** A use in words: “the clock Night”, “the week”. */
export function useWords({ kind, name }: Use): string {
  if (kind === 'rule') return `the rule “${name}”`;
  return name === '' ? `the ${kind}` : `the ${kind} ${name}`;
}
