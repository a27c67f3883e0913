import type { Axis } from './axes.js';

/** A category to be made: its values of the axis from one place to another, the last not included. */
export interface ProposedCategory {
  readonly name: string;
  readonly code: string;
  readonly from: number;
  readonly to: number;
}

/** Parts of a library from the newest on, with the share of songs each is to have. */
const BY_AGE: readonly {
  readonly least: number;
  readonly parts: readonly (readonly [name: string, code: string, share: number])[];
}[] = [
  {
    least: 400,
    parts: [
      ['Current', 'C', 0.04],
      ['Recurrent', 'R', 0.1],
      ['Gold', 'G', 0.36],
      ['Deep gold', 'D', 0.5],
    ],
  },
  {
    least: 120,
    parts: [
      ['Current', 'C', 0.12],
      ['Recurrent', 'R', 0.24],
      ['Gold', 'G', 0.64],
    ],
  },
  {
    least: 40,
    parts: [
      ['Current', 'C', 0.3],
      ['Gold', 'G', 0.7],
    ],
  },
];
const BY_PLAYS: readonly (readonly [name: string, code: string])[] = [
  ['Favourites', 'F'],
  ['Regulars', 'R'],
  ['Seldom heard', 'S'],
  ['Unheard', 'U'],
];
/** More parts than these are hard to keep an eye on. */
const MOST_PARTS = 8;

/** Categories for a library along an axis; one where there is nothing to cut by. */
export function proposeCategories({ key, values }: Axis): ProposedCategory[] {
  const total = values.reduce((sum, { songs }) => sum + songs, 0);
  const all: ProposedCategory[] = [{ name: 'Songs', code: 'S', from: 0, to: values.length }];
  if (values.length < 2) return all;
  if (key === 'year' || key === 'added') {
    const plan = BY_AGE.find(({ least }) => total >= least);
    return plan ? cut(values, plan.parts) : all;
  }
  if (key === 'plays')
    return values.map((_, n) => {
      const [name, code] = BY_PLAYS[n] ?? [`Plays ${n + 1}`, `P${n + 1}`];
      return { name, code, from: n, to: n + 1 };
    });
  const share = 1 / Math.min(values.length, MOST_PARTS);
  const parts = Array.from({ length: Math.min(values.length, MOST_PARTS) }, () => share);
  return named(bounds(values, parts), (from, to) => rangeName(values, from, to));
}

/** The places between values nearest to where shares of the songs end; parts without a value of their own fall out. */
function bounds(values: Axis['values'], shares: readonly number[]): number[] {
  const total = values.reduce((sum, { songs }) => sum + songs, 0);
  const ends: number[] = [];
  const before = values.map(() => 0);
  values.forEach(({ songs }, n) => (before[n] = (before[n - 1] ?? 0) + songs));
  let wanted = 0;
  for (const share of shares.slice(0, -1)) {
    wanted += share * total;
    const last = ends.at(-1) ?? 0;
    let best = last + 1;
    for (let end = last + 1; end < values.length; end++)
      if (Math.abs((before[end - 1] ?? 0) - wanted) < Math.abs((before[best - 1] ?? 0) - wanted)) best = end;
    if (best < values.length) ends.push(best);
  }
  return [0, ...ends, values.length];
}

function cut(values: Axis['values'], parts: readonly (readonly [string, string, number])[]): ProposedCategory[] {
  const at = bounds(
    values,
    parts.map(([, , share]) => share),
  );
  return at.slice(0, -1).map((from, n) => {
    const [name, code] = parts[n] ?? [`Part ${n + 1}`, `P${n + 1}`];
    return { name, code, from, to: at[n + 1] ?? values.length };
  });
}

function named(at: readonly number[], nameOf: (from: number, to: number) => string): ProposedCategory[] {
  const codes = new Set<string>();
  return at.slice(0, -1).map((from, n) => {
    const to = at[n + 1] ?? from + 1;
    const name = nameOf(from, to);
    return { name, code: freeCode(name, codes), from, to };
  });
}

/** `Slow`, or `Slow to fast` of several. */
export function rangeName(values: Axis['values'], from: number, to: number): string {
  const label = (n: number): string => values[n]?.label ?? '';
  const name = to - from === 1 ? label(from) : `${label(from)} to ${label(to - 1)}`;
  return `${name.charAt(0).toUpperCase()}${name.slice(1)}`.slice(0, 60);
}

/** Up to two letters or digits that stand for a name, and that nothing else has. */
export function freeCode(name: string, taken: Set<string>): string {
  const letters = name.toUpperCase().replace(/[^\p{L}\p{N}]/gu, '') || 'C';
  const options = [
    letters.slice(0, 1),
    letters.slice(0, 2),
    ...Array.from({ length: 99 }, (_, n) => `${letters.slice(0, 1)}${n + 2}`),
  ];
  const code = options.find((one) => !taken.has(one)) ?? letters.slice(0, 4);
  taken.add(code);
  return code;
}
