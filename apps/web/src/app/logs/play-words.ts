import { amountAt, type Rule, type RuleLocation } from '@fuller/core';
import { restText, whenText } from '../shared/text/when';
import type { PlacedPlay } from './desk-engine';

/** A play on one side of an entry, in words. */
export interface PlayLine {
  /** `last` or `next`. */
  readonly side: 'last' | 'next';
  readonly when: string;
  /** What played, where it is another song of the artist. */
  readonly title: string | null;
  readonly show: string | null;
  readonly gap: string;
  /** Why it is near; null where it is not. */
  readonly warning: string | null;
  readonly link: readonly string[];
  readonly query: Readonly<Record<string, string>>;
}

/** Of what is asked this much more is still near. */
const NEAR = 1.25;

/** The separation that asks most between plays of one song, or of one artist, at a place; seconds, null without one. */
export function askedApart(rules: readonly Rule[], of: 'song' | 'artist', at: RuleLocation): number | null {
  const tags = of === 'song' ? ['title', 'item'] : ['artist', 'main artist'];
  const asked = rules.flatMap((rule) => {
    if (rule.shape !== 'apart' || rule.resting || rule.value !== null || !tags.includes(rule.tag)) return [];
    return amountAt(rule, at) ?? [];
  });
  return asked.length > 0 ? Math.max(...asked) : null;
}

/** A play before or after an entry in words, with a warning where it is near. */
export function playLine(
  play: PlacedPlay,
  entry: { readonly atMs: number; readonly durationMs: number },
  of: {
    readonly stationId: string;
    readonly timeZone: string;
    readonly date: string;
    readonly title: string | null;
    readonly show: string | null;
    readonly lengthMs: number;
    /** What is asked between the two, seconds. */
    readonly askedSeconds: number | null;
  },
): PlayLine {
  const isBefore = play.startMs < entry.atMs;
  const gapMs = isBefore ? entry.atMs - (play.startMs + of.lengthMs) : play.startMs - (entry.atMs + entry.durationMs);
  const asked = of.askedSeconds === null ? null : of.askedSeconds * 1000;
  const gap = restText(Math.max(0, gapMs));
  const warning =
    asked === null || gapMs >= asked * NEAR ? null : gapMs < asked ? `only ${gap} apart` : `near: ${gap} apart`;
  return {
    side: isBefore ? 'last' : 'next',
    when: whenText(play.startMs, of.timeZone, of.date),
    title: of.title,
    show: of.show,
    gap,
    warning,
    link: ['/', of.stationId, 'logs', play.date],
    query: play.entryId === null ? { at: String(play.startMs) } : { entry: play.entryId },
  };
}
