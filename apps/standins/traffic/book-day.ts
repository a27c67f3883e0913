import { elementAt, hoursOfDay, seededRandom, weekdayOf } from '@fuller/core';
import type { Contract } from './contract.js';

/** A line of the file of a day. */
export interface BookedLine {
  /** When its break is booked, by the clock on the wall: seconds after midnight. */
  readonly atSeconds: number;
  readonly cart: string;
  readonly seconds: number;
  readonly sponsor: string;
  readonly title: string;
}

interface OpenBreak {
  readonly hour: number;
  readonly atSeconds: number;
  left: number;
  readonly lines: BookedLine[];
  readonly products: Set<string>;
}

type Sponsor = Contract['sponsors'][number];

/**
 * The spots of a date, in the order they air: each sponsor as often as its contract says where the breaks of its dayparts
 * have room, rivals never in one break, house spots in what is left. The same date gives the same spots.
 */
export function bookDay(contract: Contract, date: string): BookedLine[] {
  const random = seededRandom(Number(date.replaceAll('-', '')));
  const weekday = weekdayOf(date);
  // An hour that the day has twice has its breaks twice, one that it has not has none.
  const breaks = hoursOfDay(date, contract.timeZone).flatMap(({ localHour }) =>
    contract.breaks
      .filter((one) => one.weekday === weekday && one.hour === localHour)
      .map((one): OpenBreak => {
        const atSeconds = localHour * 3600 + one.pastHourSeconds;
        return { hour: localHour, atSeconds, left: one.seconds, lines: [], products: new Set() };
      }),
  );
  // Who has the fewest hours chooses first.
  const byWidth = [...contract.sponsors].sort((a, b) => hoursOf(a) - hoursOf(b));
  for (const sponsor of byWidth) bookSponsor(sponsor, breaks, random);
  for (const one of breaks) fillWithHouse(one, contract, random);
  return breaks.flatMap(({ lines }) => lines);
}

function hoursOf({ hours }: Sponsor): number {
  return hours.reduce((sum, [from, to]) => sum + to - from, 0);
}

function bookSponsor(sponsor: Sponsor, breaks: readonly OpenBreak[], random: () => number): void {
  const own = breaks.filter(({ hour }) => sponsor.hours.some(([from, to]) => hour >= from && hour < to));
  for (let n = 0; n < sponsor.spotsADay; n++) {
    const spot = elementAt(sponsor.spots, n % sponsor.spots.length);
    const free = own.filter(({ left, products }) => left >= spot.seconds && !products.has(sponsor.product));
    if (free.length === 0) return;
    // Spread over its dayparts: one of the emptiest breaks near where its turn is.
    const wanted = ((n + random()) / sponsor.spotsADay) * own.length;
    const near = (one: OpenBreak): number => Math.abs(own.indexOf(one) - wanted);
    const chosen = free.reduce((best, one) => (near(one) < near(best) ? one : best));
    chosen.products.add(sponsor.product);
    add(chosen, { ...spot, sponsor: sponsor.name });
  }
}

/** One of the two longest that fit and are not in the break yet, until nothing fits. */
function fillWithHouse(one: OpenBreak, { house }: Contract, random: () => number): void {
  const byLength = [...house].sort((a, b) => b.seconds - a.seconds);
  for (;;) {
    const fitting = byLength.filter(({ seconds }) => seconds <= one.left);
    if (fitting.length === 0) return;
    const fresh = fitting.filter(({ cart }) => !one.lines.some((line) => line.cart === cart));
    const choice = (fresh.length > 0 ? fresh : fitting).slice(0, 2);
    add(one, { ...elementAt(choice, Math.floor(random() * choice.length)), sponsor: '' });
  }
}

function add(one: OpenBreak, spot: Omit<BookedLine, 'atSeconds'>): void {
  one.left -= spot.seconds;
  one.lines.push({ ...spot, atSeconds: one.atSeconds });
}
