import { counted } from '../reports/words.js';
import { ruleSentence } from '../rules/sentence.js';
import type { RuleNames } from '../rules/rule-words.js';
import type { Rule } from '../rules/rule.js';
import { DAY_NAMES } from '../reports/hours-report.js';
import { elementAt } from '../values/look-up.js';
import type { ForecastChange } from './change.js';

/** How what a change names is called. */
export interface ChangeNames {
  readonly category: (id: string) => string;
  readonly clock: (id: string) => { readonly name: string; readonly lines: number } | undefined;
  readonly rule: (id: string) => Rule | undefined;
  readonly song: (id: string) => string | undefined;
  readonly inRules: RuleNames;
}

/** What a forecast changes, in words. */
export function forecastChangeWords(change: ForecastChange, names: ChangeNames): string {
  switch (change.kind) {
    case 'move': {
      const [first] = change.itemIds;
      const one = change.itemIds.length === 1;
      const what = (one && first && names.song(first)) || counted(change.itemIds.length, 'song');
      if (change.categoryId === null) return `${what} ${one ? 'leaves' : 'leave'} rotation`;
      return `${what} ${one ? 'moves' : 'move'} to ${names.category(change.categoryId)}`;
    }
    case 'rule': {
      const rule = names.rule(change.ruleId);
      if (!rule) return 'A rule changes';
      const now = ruleSentence({ ...rule, amount: change.amount ?? rule.amount }, names.inRules);
      if (change.resting !== undefined && change.resting !== rule.resting)
        return change.resting ? `“${now}” rests` : `“${now}” applies again`;
      return `“${now}” in place of “${ruleSentence(rule, names.inRules)}”`;
    }
    case 'clock': {
      const clock = names.clock(change.clockId);
      return `Clock ${clock?.name ?? ''} with ${counted(change.lines.length, 'line')}, ${clock?.lines ?? 0} today`;
    }
    case 'add':
      return `${counted(change.songs, 'song')} more in ${names.category(change.categoryId)}`;
    case 'fewer':
      return `${counted(change.songs, 'song')} fewer in ${names.category(change.categoryId)}`;
    case 'week':
      return `Clock ${names.clock(change.clockId)?.name ?? ''} on ${daysInWords(change.days)} from ${timeOfDay(change.from)} to ${timeOfDay(change.to)}`;
  }
}

function daysInWords(days: readonly number[]): string {
  const sorted = [...new Set(days)].sort();
  const name = (day: number | undefined): string => elementAt(DAY_NAMES, day ?? 0);
  if (sorted.length === 7) return 'every day';
  const inRow = sorted.length > 2 && (sorted.at(-1) ?? 0) - (sorted[0] ?? 0) === sorted.length - 1;
  return inRow ? `${name(sorted[0])} to ${name(sorted.at(-1))}` : sorted.map(name).join(', ');
}

function timeOfDay(minutes: number): string {
  const part = (value: number): string => String(value).padStart(2, '0');
  return `${part(Math.floor(minutes / 60))}:${part(minutes % 60)}`;
}
