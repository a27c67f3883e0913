/** A named part of the week that rules can be for, or ask another amount in. */
export interface Daypart {
  readonly id: string;
  readonly name: string;
  /** Hours of the week: 168 marks, Monday 00:00 first, 1 where it holds. */
  readonly hours: string;
}

/** The ids of the dayparts an hour lies in; weekday 0 is Monday, hours of the station's own clock. */
export function daypartsAt(dayparts: readonly Daypart[], weekday: number, hour: number): string[] {
  return dayparts.filter(({ hours }) => hours[weekday * 24 + hour] === '1').map(({ id }) => id);
}
