import type { ClockRow, RuleRow } from '@fuller/contracts';

/** A rule that keeps an artist 90 minutes apart, besides what a test needs. */
export const ruleRow = (id: string, more: Partial<RuleRow> = {}): RuleRow => ({
  id,
  scope: 'station',
  revision: 1,
  position: 1,
  shape: 'apart',
  tag: 'artist',
  value: null,
  followedBy: null,
  amount: 5400,
  windowSeconds: null,
  exceptions: [],
  strength: 'hard',
  rank: 0,
  resting: false,
  note: '',
  places: [],
  ...more,
});

/** An hour's clock with so many slots of Gold. */
export const clockRow = (id: string, slots = 0): ClockRow => ({
  id,
  revision: 1,
  scope: 'station',
  name: id,
  colour: '#1F6FA8',
  lengthMs: 3_600_000,
  lines: Array.from({ length: slots }, (_, n) => ({
    id: `${id}-${n}`,
    kind: 'pick',
    categoryId: 'gold',
    filter: '',
    comment: '',
  })) as unknown as ClockRow['lines'],
});
