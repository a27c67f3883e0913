import { SAY_AGAIN_MS } from '@fuller/core';
import { smallStation } from '@fuller/core/testing/small-station';
import { HOUR, MINUTE, RolledStation, T0 } from '@fuller/standins/testing/rolled-station';
import { table } from './table.js';

const HOURS = 48;
const REQUESTS = 300;

/** Two days from a live queue with requests, skips and a stop of the player: what must hold, and what it took. */
export function rolling(): string {
  const rolled = new RolledStation(smallStation(), { loop: null, depth: { minutes: 60 } });
  const startedAt = performance.now();
  const every = Math.floor((HOURS * 60) / REQUESTS / 2) * 2;
  let n = 0;
  rolled.run(T0 + HOURS * HOUR, 2 * MINUTE, () => {
    n++;
    const wanted = Math.floor((n * 2) / every);
    while (rolled.requests.length < Math.min(REQUESTS, wanted))
      rolled.ask(`song${(rolled.requests.length * 37) % 120}`);
    if (n % 60 === 0) rolled.player.skip();
  });
  const seconds = (performance.now() - startedAt) / 1000;
  const aired = rolled.requests.filter(({ airedMs }) => airedMs !== null);
  const isTrue = ({ told, airedMs }: (typeof aired)[number]): boolean => {
    const last = told.at(-1);
    return last?.is === 'planned' && Math.abs(last.atMs - airedMs!) <= SAY_AGAIN_MS;
  };
  return table(
    `A live queue, ${HOURS} simulated hours`,
    ['what', 'measured'],
    [
      ['plays', rolled.plays.length],
      ['gaps', rolled.gaps().length],
      ['musts broken', rolled.tooNear().length],
      ['times the queue was not as deep as asked', rolled.shallow],
      ['requests', rolled.requests.length],
      ['of them aired', aired.length],
      ['of these within two minutes of what was told last', aired.filter(isTrue).length],
      [
        'answers that were told again',
        rolled.requests.reduce((sum, { told }) => sum + Math.max(0, told.length - 1), 0),
      ],
      ['bringing the queue up to date, mean', `${((seconds * 1000) / n).toFixed(0)} ms`],
    ],
  );
}
