/** `1 play`, `2 plays`, `1,204 plays`. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${withCommas(count)} ${count === 1 ? one : many}`;
}

export function withCommas(count: number): string {
  return String(Math.round(count)).replace(/\B(?=(\d{3})+$)/g, ',');
}

/** `6 more than in the range before`, `2 fewer than …`, `as many as …`. */
export function comparedWith(count: number, before: number): string {
  const difference = count - before;
  if (difference === 0) return 'as many as in the range before';
  const size = withCommas(Math.abs(difference));
  return `${size} ${difference > 0 ? 'more' : 'fewer'} than in the range before`;
}

/** A length of time as people say it: `45 s`, `12 min`, `5 h 20 min`, `3 days 4 h`. */
export function inWords(seconds: number): string {
  const size = Math.abs(Math.round(seconds));
  if (size < 60) return `${size} s`;
  const minutes = Math.round(size / 60);
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  if (hours < 48) return minutes % 60 === 0 ? `${hours} h` : `${hours} h ${minutes % 60} min`;
  const days = Math.floor(hours / 24);
  return hours % 24 === 0 ? `${days} days` : `${days} days ${hours % 24} h`;
}

/** `34 %`. */
export function percent(part: number, whole: number): string {
  return `${whole === 0 ? 0 : Math.round((100 * part) / whole)} %`;
}

export function sum(values: readonly number[]): number {
  return values.reduce((total, value) => total + value, 0);
}

/** The middle value; 0 of none. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  if (sorted.length === 0) return 0;
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
