/** The minute of a day written `6:30`, `0630` or `24:00`; null for what is no time, or none of the five-minute grain. */
export function readTime(text: string): number | null {
  const found = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim());
  if (!found) return null;
  const minute = Number(found[1]) * 60 + Number(found[2]);
  return Number(found[2]) > 59 || minute > 1440 || minute % 5 ? null : minute;
}
