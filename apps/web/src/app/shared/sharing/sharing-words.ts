import type { Sharing, Use } from '@fuller/contracts';

const MOST_NAMED = 3;
const LONGEST_CODE = 4;
const LONGEST_NAME = 60;

/** One station that uses a shared thing. */
export interface StationLine {
  readonly station: string;
  /** Whether it is the one that is open. */
  readonly here: boolean;
  /** What of it uses the thing; of many the first few. */
  readonly uses: string;
  readonly all: string;
}

/** Who uses a shared thing, the open station first; shared things that use it last. */
export function stationLines({ stations, shared, notAt, kind }: Sharing, stationId: string): StationLine[] {
  const line = (station: string, uses: readonly Use[], here = false): StationLine => ({
    station,
    here,
    uses: usesText(uses, MOST_NAMED),
    all: usesText(uses, uses.length),
  });
  const open = stations.filter(({ id }) => id === stationId);
  const others = stations.filter(({ id }) => id !== stationId);
  return [
    ...open.map(({ name, uses }) => line(name, uses, true)),
    ...others.map(({ name, uses }) => line(name, uses)),
    ...(shared.length > 0 ? [line('Shared things', shared)] : []),
    ...(kind === 'rule' ? notAt.map((name) => ({ ...line(name, []), uses: 'has its own in place of it' })) : []),
  ];
}

/** Uses by kind, of each the first few: “clocks Morning, Night and 4 more; rotation plan”. */
export function usesText(uses: readonly Use[], most: number): string {
  const byKind = new Map<string, string[]>();
  for (const { kind, name } of uses) byKind.set(kind, [...(byKind.get(kind) ?? []), ...(name === '' ? [] : [name])]);
  return [...byKind]
    .map(([kind, names]) => {
      if (names.length === 0) return kind;
      const left = names.length - most;
      const shown = left > 0 ? `${names.slice(0, most).join(', ')} and ${left} more` : names.join(', ');
      return `${names.length > 1 ? `${kind}s` : kind} ${shown}`;
    })
    .join('; ');
}

/** A name for a station’s own copy: the old one with the station’s, as far as there is room. */
export function ownName(name: string, station: string): string {
  return `${name} (${station})`.length <= LONGEST_NAME
    ? `${name} (${station})`
    : `${name.slice(0, LONGEST_NAME - 6)} (own)`;
}

/** A code like another one that no category has yet. */
export function freeCode(code: string, taken: readonly string[]): string {
  const used = new Set(taken.map((one) => one.toLowerCase()));
  for (let n = 2; n < 100; n++) {
    const free = `${code.slice(0, LONGEST_CODE - String(n).length)}${n}`;
    if (!used.has(free.toLowerCase())) return free;
  }
  return '';
}
