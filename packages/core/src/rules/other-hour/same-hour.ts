/** The meaning of shape otherHour: the same hour of the day, one day to so many days later. */
export function isSameHourWithin(
  days: number,
  earlierDay: number,
  earlierHour: number,
  day: number,
  hour: number,
): boolean {
  return hour === earlierHour && day > earlierDay && day - earlierDay <= days;
}
