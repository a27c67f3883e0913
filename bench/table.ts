import { elementAt } from '@fuller/core';
/** Prints rows under headings, columns as wide as they need. */
export function table(title: string, head: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const cells = [head, ...rows].map((row) => row.map(String));
  const widths = head.map((_, column) => Math.max(...cells.map((row) => elementAt(row, column).length)));
  const line = (row: readonly string[]): string =>
    `| ${row.map((cell, column) => cell.padEnd(elementAt(widths, column))).join(' | ')} |`;
  return [
    `## ${title}`,
    '',
    line(elementAt(cells, 0)),
    `|${widths.map((width) => '-'.repeat(width + 2)).join('|')}|`,
    ...cells.slice(1).map(line),
    '',
  ].join('\n');
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return elementAt(sorted, Math.floor(sorted.length / 2));
}

/** The median of several timed runs, milliseconds. */
export async function timed(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < runs; run++) {
    const startedAt = performance.now();
    await work();
    times.push(performance.now() - startedAt);
  }
  return median(times);
}

export function ms(value: number): string {
  return value < 10 ? `${value.toFixed(1)} ms` : `${Math.round(value)} ms`;
}

/** The value below which so large a share of some values lies. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}
