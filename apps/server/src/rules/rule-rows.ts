import type { Rule } from '@fuller/core';
import type { RuleRecord } from '../db/entities/index.js';

/** A stored rule as generation and sentences take it. */
export function ruleOf(row: RuleRecord): Rule {
  const {
    id,
    shape,
    tag,
    value,
    followedBy,
    amount,
    windowSeconds,
    exceptions,
    strength,
    rank,
    resting,
    note,
    places,
    stationIds,
  } = row;
  return {
    id,
    shape,
    tag,
    value: value ?? null,
    followedBy: followedBy ?? null,
    amount,
    windowSeconds: windowSeconds ?? null,
    exceptions,
    strength,
    rank,
    resting: Boolean(resting),
    note,
    places,
    ...(stationIds.length > 0 ? { stationIds } : {}),
  };
}
