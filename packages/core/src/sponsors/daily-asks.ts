import type { StationModel } from '../station/station-model.js';
import { nameKey } from '../text/fold.js';
import { addDays, hoursOfDay, localTimeOf, weekdayOf } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { holdsOn, NO_SPONSORS, sponsorKey, type Sponsor, type SponsorPromise } from './sponsor.js';

/** What a promise asks of a day. */
export interface DailyAsk {
  readonly sponsorId: string;
  /** As messages have it. */
  readonly sponsor: string;
  readonly promise: SponsorPromise;
  /** Its place among the promises to the sponsor. */
  readonly index: number;
  /** So many on the day: what was promised for it, or the day's share of what is left of the week. */
  readonly count: number;
}

/** What the agreements that hold on a station-local date ask of it, those for a daypart first. */
export function dailyAsks(model: StationModel, date: string): DailyAsk[] {
  const { sponsors } = model.data.sponsors ?? NO_SPONSORS;
  return sponsors
    .filter((sponsor) => holdsOn(sponsor, date))
    .flatMap((sponsor) =>
      sponsor.promises.map((promise, index): DailyAsk => ({
        sponsorId: sponsor.id,
        sponsor: nameKey(sponsor.name),
        promise,
        index,
        count:
          promise.per === 'week'
            ? shareOfWeek(model, sponsor, promise, date)
            : takesPlaceOn(model, promise, weekdayOf(date))
              ? promise.count
              : 0,
      })),
    )
    .filter(({ count }) => count > 0)
    .sort((a, b) => Number(a.promise.daypartId === null) - Number(b.promise.daypartId === null));
}

/** What is left of a week's promise, spread over the days that are left of it. */
function shareOfWeek(model: StationModel, sponsor: Sponsor, promise: SponsorPromise, date: string): number {
  const monday = addDays(date, -weekdayOf(date));
  const days = Array.from({ length: 7 }, (_, n) => addDays(monday, n)).filter(
    (one) => one >= date && holdsOn(sponsor, one) && takesPlaceOn(model, promise, weekdayOf(one)),
  );
  if (days[0] !== date) return 0;
  const { startDate } = sponsor;
  const from = startDate !== null && startDate > monday ? startDate : monday;
  const left = promise.count - playsBetween(model, sponsor, promise, from, date);
  return Math.max(0, Math.ceil(left / days.length));
}

/** Whether some hour of a day of the week (0 Monday) lies in the daypart of a promise. */
function takesPlaceOn({ data }: StationModel, { daypartId }: SponsorPromise, weekday: number): boolean {
  if (daypartId === null) return true;
  const daypart = data.dayparts.find(({ id }) => id === daypartId);
  return daypart?.hours.slice(weekday * 24, weekday * 24 + 24).includes('1') ?? false;
}

/** Plays of a sponsor that count for a promise, from one date to the day before another. */
function playsBetween(
  model: StationModel,
  sponsor: Sponsor,
  { daypartId }: SponsorPromise,
  from: string,
  date: string,
): number {
  const { timeZone, dayparts } = model.data;
  const startOf = (one: string): number => elementAt(hoursOfDay(one, timeZone), 0).startMs;
  const [fromMs, untilMs] = [startOf(from), startOf(date)];
  const hours = daypartId === null ? null : (dayparts.find(({ id }) => id === daypartId)?.hours ?? '');
  const past = model.playsBefore(untilMs);
  let count = 0;
  for (const { id, artist, kind } of model.data.items) {
    if (kind !== 'sponsor message' || sponsorKey({ id, artist }) !== nameKey(sponsor.name)) continue;
    for (const startMs of past.get(id) ?? []) {
      if (startMs < fromMs) break;
      const at = localTimeOf(startMs, timeZone);
      if (hours === null || hours[weekdayOf(at.date) * 24 + at.hour] === '1') count++;
    }
  }
  return count;
}
