import type { Rule } from '../rules/rule.js';
import { LIMITED_ALBUM, LIMITED_SET } from '../station/rule-tags.js';
import { LIMIT_PERIOD_SECONDS, statutoryLimits, type LimitSubject } from './limits.js';

/** Begins the ids of the rules that stand for the statutory limits. */
const LIMIT_RULE = 'limits-';

/** The tag that tells what a limit counts by. */
const TAG: Readonly<Record<LimitSubject, string>> = {
  album: LIMITED_ALBUM,
  artist: 'main artist',
  set: LIMITED_SET,
};

/** Whether a rule stands for one of the statutory limits. */
export function isLimitRule(ruleId: string): boolean {
  return ruleId.startsWith(LIMIT_RULE);
}

/**
 * The statutory limits as musts of generation. These count plays, so a recording that returns within three hours counts
 * again: days made with them keep the limits, with a little to spare. Sets are known by a tag family of that name.
 */
export function limitRules(strict: boolean): Rule[] {
  return statutoryLimits(strict).map(({ id, subject, allowed, inARow }) => ({
    id: `${LIMIT_RULE}${id}`,
    shape: inARow ? ('streak' as const) : ('atMost' as const),
    tag: TAG[subject],
    value: null,
    followedBy: null,
    amount: allowed,
    windowSeconds: inARow ? null : LIMIT_PERIOD_SECONDS,
    exceptions: [],
    strength: 'hard' as const,
    rank: 0,
    resting: false,
    note: 'Statutory limit',
    places: [],
  }));
}
