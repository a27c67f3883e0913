import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { handOverSettings } from '@fuller/contracts';
import { breakLength, elementAt, proposeLayout, weekdayOf, type DailyLog } from '@fuller/core';
import { programAt, type Services } from '@fuller/server';
import { ON_AIR_STAND_INS } from './on-air.js';
import { trafficFile, trafficFileName, type Contract } from '@fuller/standins/traffic';
import { writeShortAudio } from './sounds.js';
import { PRODUCTS } from './sponsors.js';
import { SPONSORS } from './words.js';

/** The port at which the stand-in for a playout machine takes files. */
const RECEIVER_PORT = 4611;
const DESK = 'OSIER VALE TRADE DESK';

/** The desk’s file has room for 23 letters. */
const SHORT: Readonly<Record<string, string>> = {
  'Marl & Daughter Opticians': 'Marl & Daughter',
  'Sallowbank Garden Centre': 'Sallowbank Gardens',
  'Half Tide Swimming Pool': 'Half Tide Pool',
};
const COPY = ['Winter hours', 'Lights on', 'Come and see'];
const BY_DAY = [[6, 22]] as const;
const RUSH = [
  [6, 10],
  [15, 19],
] as const;

/** What the trade desk has sold: spots of every sponsor, in the breaks of some logs, one for each weekday. */
export function demoContract(logs: readonly DailyLog[], timeZone: string): Contract {
  const byWeekday = new Map(logs.map((log) => [weekdayOf(log.date), log]));
  return {
    format: 'fuller-contract',
    version: 1,
    desk: DESK,
    timeZone,
    breaks: [...byWeekday].flatMap(([weekday, { hours }]) =>
      hours.flatMap(({ localHour, entries }, n) =>
        // Of an hour that comes twice the first is enough.
        hours[n - 1]?.localHour === localHour
          ? []
          : entries.flatMap((entry) => {
              if (entry.kind !== 'break' || entry.out) return [];
              const seconds = Math.round(breakLength({ durationMs: entry.durationMs }) / 1000);
              return [
                { weekday, hour: localHour, pastHourSeconds: Math.round(entry.bookedAtMs / 1000) % 3600, seconds },
              ];
            }),
      ),
    ),
    sponsors: SPONSORS.map((sponsor, n) => ({
      name: (SHORT[sponsor] ?? sponsor).toUpperCase(),
      product: elementAt(PRODUCTS, n),
      spotsADay: 12 + ((n * 5) % 13),
      hours: (n % 3 === 0 ? RUSH : BY_DAY).map(([from, to]) => [from, to]),
      spots: COPY.map((title, c) => ({
        cart: `SP${10_100 + n * 10 + c}`,
        title,
        seconds: elementAt([20, 30, 40], (n + c) % 3),
      })),
    })),
    house: [5, 10, 15, 20, 30, 45, 60].map((seconds) => ({
      cart: `SP${10_000 + seconds}`,
      title: `House, ${seconds} s`,
      seconds,
    })),
  };
}

/** Two spots that the desk has booked where there is no break, for a person to place. */
const LATE = [
  '10:20:00  SP10191  \u00a030  PINDER’S HARDWARE        Late booking',
  '14:36:00  SP10111  \u00a020  LOCKSIDE CYCLES          Moved, ask Ivo',
].map((line) => line.replace('\u00a0', ' '));

/** The contract with its audio, the folder the stand-in writes to, today’s spots, and where days are handed over to. */
export async function addTrade(
  services: Services,
  {
    stationId,
    today,
    logs,
    timeZone,
  }: { stationId: string; today: string; logs: readonly DailyLog[]; timeZone: string },
): Promise<void> {
  const contract = demoContract(logs, timeZone);
  const { traffic, audio } = services.folders;
  const root = path.dirname(audio);
  await mkdir(traffic, { recursive: true });
  await writeFile(path.join(traffic, '.contract.json'), JSON.stringify(contract, null, 1));
  await writeFile(
    path.join(root, 'standins.json'),
    JSON.stringify({
      stationId,
      traffic: { contract: 'traffic/.contract.json', out: 'traffic' },
      receiver: { folder: 'playout', port: RECEIVER_PORT, user: 'fuller', password: 'towpath' },
      ...ON_AIR_STAND_INS,
    }),
  );
  const spots = [
    ...contract.sponsors.flatMap(({ name, spots: own }) => own.map((spot) => ({ ...spot, artist: name }))),
  ];
  const house = contract.house.map((spot) => ({ ...spot, artist: DESK }));
  for (const [n, { cart, title, artist }] of [...spots, ...house].entries())
    await writeShortAudio(path.join(audio, 'spots', `${cart}.wav`), n, { title, artist, album: '', year: null });

  const actor = programAt(stationId, 'demo');
  const text = `${trafficFile(contract, today)}${LATE.join('\r\n')}\r\n`;
  const fileName = trafficFileName(today);
  await writeFile(path.join(traffic, fileName), text);
  const layout = proposeLayout(text, 'Trade desk');
  if (!layout) throw new Error('the trade desk’s file has no layout');
  await services.trafficSettings.saveLayout(actor, 'trade-desk', { name: 'Trade desk', layout, revision: 0 });
  await services.trafficSettings.set(actor, {
    revision: 0,
    toleranceMs: 300_000,
    layoutId: 'trade-desk',
    folder: '.',
    automatic: true,
  });
  const plain = { layout: null, toleranceMs: null, dryRun: false };
  await services.traffic.take(actor, today, { text, fileName, ...plain });
  await addOutputs(services, stationId);
}

/** What the desk had sold for a day that is over. */
export async function bookDay(
  services: Services,
  { stationId, date, logs, timeZone }: { stationId: string; date: string; logs: readonly DailyLog[]; timeZone: string },
): Promise<void> {
  const text = trafficFile(demoContract(logs, timeZone), date);
  const asked = { text, fileName: trafficFileName(date), layout: null, toleranceMs: null, dryRun: false };
  await services.traffic.take(programAt(stationId, 'demo'), date, asked);
}

async function addOutputs({ outputs }: Services, stationId: string): Promise<void> {
  const actor = programAt(stationId, 'demo');
  await outputs.save(actor, 'playlist', {
    revision: 0,
    name: 'Playlist',
    files: handOverSettings({ pattern: '{station}_{date}.m3u8', hourly: false }),
    target: { kind: 'folder', folder: null },
    nightly: { at: '23:30', daysAhead: 1 },
  });
  await outputs.save(actor, 'playout', {
    revision: 0,
    name: 'Playout machine',
    files: handOverSettings({ pattern: '{yyyy}{MM}{dd}_{HH}.xspf', hourly: true, format: 'xspf', cues: true }),
    target: { kind: 'http', url: `http://127.0.0.1:${RECEIVER_PORT}`, user: 'fuller' },
    nightly: { at: '23:00', daysAhead: 1 },
    password: 'towpath',
  });
}
