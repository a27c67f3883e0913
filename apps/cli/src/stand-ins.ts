import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { startStandIn, type Services } from '@fuller/server';
import * as v from 'valibot';

/** What the demo says of its stand-ins; folders are named from the data folder. */
const StandInsSchema = v.object({
  stationId: v.string(),
  traffic: v.object({ contract: v.string(), out: v.string() }),
  receiver: v.object({ folder: v.string(), port: v.number(), user: v.string(), password: v.string() }),
});

/** Where the build puts the programs, seen from the bundled one. */
const scriptAt = (name: string): string => fileURLToPath(new URL(`./${name}.js`, import.meta.url));

/** Starts the stand-ins that a data folder names; most name none. */
export async function startStandIns({ jobs, folders }: Services): Promise<void> {
  const root = path.dirname(folders.audio);
  const text = await readFile(path.join(root, 'standins.json'), 'utf8').catch(() => null);
  if (text === null) return;
  const { stationId, traffic, receiver } = v.parse(StandInsSchema, JSON.parse(text));
  startStandIn(jobs, {
    label: 'Traffic stand-in',
    stationId,
    script: scriptAt('standin-traffic'),
    args: ['--contract', path.join(root, traffic.contract), '--out', path.join(root, traffic.out)],
  });
  const { folder, port, user, password } = receiver;
  startStandIn(jobs, {
    label: 'Playout stand-in (takes files)',
    stationId,
    script: scriptAt('standin-receiver'),
    args: ['--folder', path.join(root, folder), '--port', String(port), '--user', user, '--password', password],
  });
}
