// Prints how much of core its tests reach, by room, and names the files with less than so much of their branches.
import { readFileSync } from 'node:fs';
import path from 'node:path';

const LEAST = 80;

export function printCoverage(folder, root) {
  const summary = JSON.parse(readFileSync(path.join(folder, 'coverage-summary.json'), 'utf8'));
  const base = path.join(root, 'packages/core/src');
  const files = Object.entries(summary)
    .filter(([file]) => file.startsWith(base))
    // A file without functions holds types alone.
    .filter(([, { functions }]) => functions.total > 0)
    .map(([file, { lines, branches }]) => ({ file: path.relative(base, file), lines, branches }));
  const rooms = new Map();
  for (const one of files) {
    const room = one.file.includes(path.sep) ? one.file.split(path.sep)[0] : '(doors)';
    rooms.set(room, [...(rooms.get(room) ?? []), one]);
  }
  const share = (list, what) => {
    const [covered, total] = list.reduce(([c, t], one) => [c + one[what].covered, t + one[what].total], [0, 0]);
    return total === 0 ? 100 : Math.round((100 * covered) / total);
  };
  console.log('\nCoverage of core        lines  branches');
  for (const [room, list] of [...rooms, ['all', files]])
    console.log(
      `${room.padEnd(22)} ${String(share(list, 'lines')).padStart(5)} % ${String(share(list, 'branches')).padStart(7)} %`,
    );
  const low = files.filter(({ branches }) => branches.total > 0 && branches.pct < LEAST);
  if (low.length > 0) console.log(`Below ${LEAST} % of branches:`);
  for (const { file, branches } of low) console.log(`  ${file} ${Math.round(branches.pct)} %`);
}
