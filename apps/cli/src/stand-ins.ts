import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { addDays, localTimeOf } from '@fuller/core';
import { programAt, startStandIn, type Services } from '@fuller/server';
import * as v from 'valibot';

const port = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(65_535));
/** What the demo says of its stand-ins; folders are named from the data folder. */
const StandInsSchema = v.object({
  stationId: v.string(),
  traffic: v.object({ contract: v.string(), out: v.string() }),
  receiver: v.object({ folder: v.string(), port, user: v.string(), password: v.string() }),
  stream: v.optional(v.object({ port, controlPort: port, password: v.string() })),
  requests: v.optional(v.object({ port, wishes: v.string() })),
  playout: v.optional(
    v.object({ files: v.string(), folder: v.string(), port, token: v.string(), output: v.optional(v.string()) }),
  ),
});
type StandIns = v.InferOutput<typeof StandInsSchema>;

/** Where the build puts the programs, seen from the bundled one. */
const scriptAt = (name: string): string => fileURLToPath(new URL(`./${name}.js`, import.meta.url));

/** Starts the stand-ins that a data folder names; most name none. */
export async function startStandIns(services: Services): Promise<void> {
  const { jobs, folders } = services;
  const root = path.dirname(folders.audio);
  const text = await readFile(path.join(root, 'standins.json'), 'utf8').catch(() => null);
  if (text === null) return;
  const standIns = v.parse(StandInsSchema, JSON.parse(text));
  const { stationId, traffic, receiver } = standIns;
  const start = (label: string, script: string, args: readonly string[]): void =>
    void startStandIn(jobs, { label, stationId, script: scriptAt(script), args });
  start('Traffic stand-in', 'standin-traffic', [
    '--contract',
    path.join(root, traffic.contract),
    '--out',
    path.join(root, traffic.out),
  ]);
  const { folder, port: receiverPort, user, password } = receiver;
  start('Playout stand-in (takes files)', 'standin-receiver', [
    '--folder',
    path.join(root, folder),
    '--port',
    String(receiverPort),
    '--user',
    user,
    '--password',
    password,
  ]);
  await startOnAir(services, root, standIns, start);
}

/** The player and its stream; the first time the player is given today and tomorrow. */
async function startOnAir(
  { catalogue, handOverJobs, now }: Services,
  root: string,
  { stationId, stream, playout, requests }: StandIns,
  start: (label: string, script: string, args: readonly string[]) => void,
): Promise<void> {
  if (stream)
    start('Stream stand-in', 'standin-stream', [
      '--port',
      String(stream.port),
      '--control-port',
      String(stream.controlPort),
      '--password',
      stream.password,
    ]);
  if (requests)
    start('Request line stand-in', 'standin-requests', [
      '--port',
      String(requests.port),
      '--wishes',
      path.join(root, requests.wishes),
    ]);
  if (!playout) return;
  const { name, timeZone } = await catalogue.station(stationId);
  const files = path.join(root, playout.files);
  start('Playout stand-in (plays)', 'standin-playout', [
    '--files',
    files,
    '--folder',
    path.join(root, playout.folder),
    '--port',
    String(playout.port),
    '--token',
    playout.token,
    '--zone',
    timeZone,
    '--station',
    name,
    ...(stream ? ['--stream-port', String(stream.port), '--stream-password', stream.password] : []),
  ]);
  const isEmpty = (await readdir(files).catch(() => [])).length === 0;
  if (playout.output === undefined || !isEmpty) return;
  const today = localTimeOf(now(), timeZone).date;
  for (const date of [today, addDays(today, 1)])
    await handOverJobs.begin(programAt(stationId, 'stand-in'), date, playout.output).catch(() => {});
}
