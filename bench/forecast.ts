import { VALE } from '@fuller/demo';
import { ForecastService, openReading, threadCompute } from '@fuller/server';
import { table } from './table.js';

const WEEKS = 13;

/** Weeks ahead in memory, alone and with a change beside them, in two threads. */
export async function forecast(dataDir: string, weeks = WEEKS): Promise<string> {
  const reading = await openReading(dataDir);
  const compute = threadCompute();
  try {
    const service = new ForecastService(reading.store, reading.reader, compute, Date.now);
    const took = async (changed: boolean): Promise<string[]> => {
      const changes = changed ? [{ kind: 'add' as const, category: 'Current A', songs: 6 }] : [];
      const began = performance.now();
      const prepared = await service.prepare(VALE, { weeks, seed: 1, changes });
      const { slots } = await service.run(prepared, { progress: () => {}, signal: new AbortController().signal });
      const seconds = (performance.now() - began) / 1000;
      const days = weeks * 7 * (changed ? 2 : 1);
      return [
        changed ? 'as it is and with a change' : 'as it is',
        String(slots.today),
        `${seconds.toFixed(1)} s`,
        `${((seconds * 1000) / days).toFixed(0)} ms`,
      ];
    };
    const rows = [await took(false), await took(true)];
    return table(`A forecast of ${weeks} weeks of the demo`, ['set-up', 'slots', 'time', 'a day'], rows);
  } finally {
    await compute.close();
    await reading.close();
  }
}
