import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { handOverSettings } from '@fuller/contracts';
import { elementAt, type AiredRow, type MissedRow } from '@fuller/core';
import { programAt, type Services } from '@fuller/server';
import { Player, type QueuedRow } from '@fuller/standins/player';

const PLAYER_PORT = 4612;
const STREAM_PORT = 4613;
const STREAM_CONTROL_PORT = 4614;
const REQUESTS_PORT = 4615;
const WISHES = 'wishes.json';
const TOKEN = 'narrowboat';
const STREAM_PASSWORD = 'swing-bridge';
/** With it Maren takes the air of The Long Lock. */
const LIVE_PASSWORD = 'long lock';

/** What the stand-ins of the player and its stream are started with; folders are named from the data folder. */
export const ON_AIR_STAND_INS = {
  playout: { files: 'playout', folder: 'player', port: PLAYER_PORT, token: TOKEN, output: 'playout' },
  requests: { port: REQUESTS_PORT, wishes: WISHES },
  stream: { port: STREAM_PORT, controlPort: STREAM_CONTROL_PORT, password: STREAM_PASSWORD },
};

/** The player of the station, a live show, and what aired yesterday: as planned but for a few things. */
export async function addOnAir(
  services: Services,
  {
    stationId,
    yesterday,
    timeZone,
    songs,
  }: {
    stationId: string;
    yesterday: string;
    timeZone: string;
    /** Those listeners ask for, the best known first. */
    songs: readonly { readonly title: string; readonly artist: string }[];
  },
): Promise<void> {
  const actor = programAt(stationId, 'demo');
  const settings = { playerUrl: `http://127.0.0.1:${PLAYER_PORT}`, token: TOKEN, lateMs: 60_000 };
  await services.onAirSettings.set(actor, { ...settings, revision: 0, acceptAll: false });
  const isKnown = (await services.logs.find(stationId, yesterday)) !== null;
  if (isKnown) {
    const text = JSON.stringify(await airedOn(services, stationId, yesterday, timeZone));
    await services.asRun.take(actor, yesterday, {
      text,
      fileName: `as-run-${yesterday}.json`,
      layout: null,
      dryRun: false,
    });
  }
  await services.onAirSettings.set(actor, { ...settings, revision: 1, acceptAll: true });
  await services.rollingSettings.set(actor, {
    revision: 0,
    mode: 'off',
    loopClockId: null,
    setListId: null,
    depthUnit: 'minutes',
    depth: 30,
    perListener: 2,
    perHour: 6,
    requestsUrl: `http://127.0.0.1:${REQUESTS_PORT}`,
  });
  await writeFile(path.join(path.dirname(services.folders.audio), WISHES), JSON.stringify(wishList(songs), null, 1));
  const [show] = (await services.catalogue.catalogue(stationId)).shows.filter(({ name }) => name === 'The Long Lock');
  if (show)
    await services.planWriter.updateShow(actor, show.id, show.revision, {
      presenter: 'Maren Tolley',
      password: LIVE_PASSWORD,
    });
}

const LISTENERS = [
  'Bríd at the lock',
  'Tomás',
  'Hal and Wren',
  'The bakery',
  'Oona K.',
  'Piet',
  'Night shift, ward 3',
  'Sive',
  'Marlow',
  'Ines',
  'Old Ferris',
  'The twins',
  'Gwil',
  'Maeve in Thornwick',
];
const NOBODY_HAS = [
  { title: 'That one from the film', artist: '' },
  { title: 'Harbour Lights at Noon', artist: 'The Quiet Quays' },
  { title: 'My Cousin’s Band', artist: 'My cousin' },
];

function wishList(songs: readonly { readonly title: string; readonly artist: string }[]): object {
  const wanted = songs.map(({ title, artist }) => ({ title, artist }));
  return { songs: wanted, listeners: LISTENERS, unknown: NOBODY_HAS };
}

/** A day as a player plays it when one file is lost, a presenter skips a song and puts one in, and it stops for two minutes. */
async function airedOn(services: Services, stationId: string, date: string, timeZone: string): Promise<object> {
  const { files } = await services.handOver.files(
    stationId,
    date,
    handOverSettings({
      pattern: '{date}.json',
      hourly: false,
      format: 'json',
      withoutAudio: 'keep with cart',
      cues: true,
    }),
  );
  const rows = elementAt(files, 0).rows.map((row, n): QueuedRow => ({
    ...row,
    id: row.cue?.id ?? String(n),
    by: 'log',
  }));
  const first = elementAt(rows, 0);
  const aired: AiredRow[] = [];
  const missed: MissedRow[] = [];
  let plays = 0;
  const player = new Player(
    first.startMs,
    () => `demo-${date}-${++plays}`,
    (event) => {
      if (event.type === 'aired') aired.push({ ...event.row, file: '' });
      if (event.type === 'missed') missed.push(event.row);
    },
  );
  player.load(rows);
  const songAt = (hour: number): QueuedRow =>
    elementAt(
      rows.filter((row) => row.kind === 'song' && row.startMs >= first.startMs + hour * 3_600_000),
      1,
    );
  player.loseFile(songAt(8).id);
  player.advance(songAt(11).startMs + 95_000);
  player.skip();
  player.playNext({ ...songAt(20), id: 'own-1', cart: '', by: 'presenter' });
  player.advance(songAt(15).startMs + 40_000);
  player.stopFor(130_000);
  player.advance(first.startMs + 24 * 3_600_000);
  const coveredUntilMs = Math.max(...aired.map(({ endMs }) => endMs));
  return { format: 'fuller-as-run', version: 1, date, timeZone, rows: aired, missed, coveredUntilMs };
}
