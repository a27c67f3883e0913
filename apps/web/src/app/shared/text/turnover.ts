const DAY = 24;

/** How long a category takes to come round: `31 h`, `2.9 days`; a dash where nothing asks for it. */
export function turnoverText(hours: number | null): string {
  if (hours === null) return '–';
  return hours < 2 * DAY ? `${Math.round(hours)} h` : `${(hours / DAY).toFixed(1)} days`;
}
