import type { CoolOff } from '../rotation/cool-off.js';
import type { Life, Placed } from '../rotation/life.js';
import type { TurnOrder } from '../rotation/category.js';
import type { Announced, ItemKind } from '../library/item.js';
import type { DailyLog } from '../log/daily-log.js';
import type { Daypart } from '../rules/daypart.js';
import type { Rule } from '../rules/rule.js';
import type { SponsorPolicy } from '../sponsors/sponsor.js';
import type { AirPlan } from '../week/air-plan.js';

/** An item as generation needs it. */
export interface ScheduledItem {
  readonly id: string;
  /** A song where nothing else is said. */
  readonly kind?: ItemKind;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  /** Ids of every credited artist. */
  readonly artistIds: readonly string[];
  /** Of these, the ones that are not featured only; all of them where nothing is said. */
  readonly mainArtistIds?: readonly string[];
  readonly durationMs: number;
  /** How long before its end the next one may begin, milliseconds. */
  readonly segueMs: number | null;
  /** Until the vocal, milliseconds; none where nothing is said. */
  readonly introMs?: number | null;
  /** For a tease: what it is tied to; otherwise title and artist say it. */
  readonly announces?: Announced | null;
  readonly year?: number | null;
  readonly startDate: string | null;
  readonly endDate: string | null;
  /** As in LibraryItem. */
  readonly hours: string | null;
  readonly pausedUntil: string | null;
  readonly approved: boolean;
  /** Values by the id of their tag family. */
  readonly tags?: Readonly<Record<string, string[]>>;
  /** For turn order weighted, 1 as a rule. */
  readonly weight: number;
}

/** A play that aired or is planned outside the day in hand. */
export interface StationPlay {
  readonly itemId: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
}

/** A play of another station of the group. */
export interface SisterPlay extends StationPlay {
  readonly stationId: string;
}

/** A value that lines of a clock shared. */
export interface ThemePlay {
  readonly by: string;
  readonly value: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
}

/** Everything of a station that a day's log is made from. */
export interface StationData {
  readonly timeZone: string;
  readonly plan: AirPlan;
  readonly items: readonly ScheduledItem[];
  /** Item ids by category id. */
  readonly categories: Readonly<Record<string, readonly string[]>>;
  /** Ids of the music categories: separations look at these; imaging and speech follow their turn order alone. */
  readonly musicCategories: readonly string[];
  /** Ids of the categories that take approved items only. */
  readonly approvedOnly: readonly string[];
  /** Whether plays of a title move round the hours of the day. */
  readonly spreadHours: boolean;
  /** The rests categories give after many plays, by category id. */
  readonly coolOffs: Readonly<Record<string, CoolOff>>;
  /** How long songs stay in a category, by its id, where that is limited. */
  readonly lives?: Readonly<Record<string, Life>>;
  /** The songs that may leave their category by themselves, by their id. */
  readonly placed?: Readonly<Record<string, Placed>>;
  /** How each category takes turns, by its id; even where nothing is said. */
  readonly orders: Readonly<Record<string, TurnOrder>>;
  /** Item ids that fit the filters of clock lines, by the filter's text. */
  readonly filters: Readonly<Record<string, readonly string[]>>;
  /** Those of the statutory limits among them, where they apply. */
  readonly rules: readonly Rule[];
  readonly dayparts: readonly Daypart[];
  /** Names of albums that the statutory limits do not count. */
  readonly exemptAlbums: readonly string[];
  /** The sponsors and their promises; nothing is agreed where nothing is said. */
  readonly sponsors?: SponsorPolicy;
  /** The values that were themes in the weeks before. */
  readonly themes?: readonly ThemePlay[];
  readonly history: readonly StationPlay[];
  /** What plays on other stations about the day, where a rule is about that. */
  readonly sisterPlays?: readonly SisterPlay[];
  /** The log of the day after, when there is one: its early hours count like locked plays. */
  readonly nextLog: DailyLog | null;
}
