import type { RuleShape } from './rule.js';

/** One example of each shape, as a person would type it. */
export const RULE_EXAMPLES: readonly {
  readonly shape: RuleShape;
  readonly name: string;
  readonly example: string;
  readonly words: string;
}[] = [
  {
    shape: 'apart',
    name: 'Separation',
    example: 'keep the same artist at least 90 min apart',
    words: 'Two plays that share an artist, a title, a tag or a value are so far apart.',
  },
  {
    shape: 'streak',
    name: 'In a row',
    example: 'at most 2 of the same album in a row',
    words: 'So many plays on end may share something.',
  },
  {
    shape: 'atMost',
    name: 'At most',
    example: 'at most 2 of the same artist in 3 h',
    words: 'An hour, or any stretch of time, has no more than so many.',
  },
  {
    shape: 'atLeast',
    name: 'At least',
    example: 'at least 1 of the same category an hour',
    words: 'Every hour has so many, where it can. A wish only.',
  },
  {
    shape: 'handOff',
    name: 'Hand-off',
    example: 'no VALUE after VALUE',
    words: 'One value never comes right after another.',
  },
  {
    shape: 'otherHour',
    name: 'Other hour',
    example: 'title out of the same hour for 3 days',
    words: 'A song does not return at the hour of the day at which it played lately.',
  },
  {
    shape: 'across',
    name: 'Across stations',
    example: 'title 15 min across stations',
    words: 'What plays on other stations of the group does not play here at the same time, or so soon before or after.',
  },
];

/** A rule of a preset: its sentence, and a wish of which rank it is, 0 for a must. */
interface PresetRule {
  readonly sentence: string;
  readonly rank: number;
}

/** Rules to begin with. */
export interface RulePreset {
  readonly name: string;
  readonly words: string;
  readonly rules: readonly PresetRule[];
}

/** Three sets of rules to begin with, for any library. */
export const RULE_PRESETS: readonly RulePreset[] = [
  {
    name: 'Light',
    words: 'Artists an hour apart and titles three. For small libraries, and stations that like their favourites.',
    rules: [
      { sentence: 'Keep the same artist at least 1 h apart', rank: 0 },
      { sentence: 'Keep the same title at least 3 h apart', rank: 0 },
    ],
  },
  {
    name: 'Usual',
    words: 'Artists 90 minutes and titles 8 hours apart, albums where possible, songs at another hour each day.',
    rules: [
      { sentence: 'Keep the same main artist at least 90 min apart', rank: 0 },
      { sentence: 'Keep the same title at least 8 h apart', rank: 0 },
      { sentence: 'Keep the same album at least 1 h apart', rank: 1 },
      { sentence: 'Keep the same artist at least 45 min apart', rank: 1 },
      { sentence: 'Keep the same title out of the same hour for 2 days', rank: 2 },
    ],
  },
  {
    name: 'Strict',
    words: 'Artists two hours and titles a day apart. For large libraries with many artists.',
    rules: [
      { sentence: 'Keep the same artist at least 2 h apart', rank: 0 },
      { sentence: 'Keep the same title at least 24 h apart', rank: 0 },
      { sentence: 'Keep the same album at least 3 h apart', rank: 0 },
      { sentence: 'At most 2 of the same artist in 6 h', rank: 1 },
      { sentence: 'Keep the same title out of the same hour for 5 days', rank: 2 },
    ],
  },
];
