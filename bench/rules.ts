import {
  addDays,
  BackTest,
  elementAt,
  headroomOf,
  limitReport,
  LogInspector,
  relationsOf,
  STANDARD_LIMITS,
  StationModel,
  weekDemand,
  type DailyLog,
  type PlaylistSong,
} from '@fuller/core';
import { VALE } from '@fuller/demo';
import type { Services } from '@fuller/server';
import { ms, table } from './table.js';

const TIMES = 9;

function median(work: () => unknown): number {
  const times = Array.from({ length: TIMES }, () => {
    const startedAt = performance.now();
    work();
    return performance.now() - startedAt;
  });
  return elementAt(
    times.sort((a, b) => a - b),
    Math.floor(TIMES / 2),
  );
}

/** What is worked out while a rule is typed and when one is turned off on the desk, on the demo station; and a check of a long playlist. */
export async function rules({ logs }: Services, from: string): Promise<string> {
  const { data } = await logs.rulesGround(VALE);
  const model = new StationModel(data);
  const demand = weekDemand(model);
  const week = new BackTest(model, data.history, addDays(from, -7), addDays(from, -1));
  const month = new BackTest(model, data.history, addDays(from, -28), addDays(from, -1));
  const slowest = (work: (rule: (typeof data.rules)[number]) => unknown): string =>
    ms(Math.max(...data.rules.map((rule) => median(() => work(rule)))));
  const tomorrow = addDays(from, 1);
  const day = new StationModel(await logs.stationData(VALE, tomorrow));
  const row = await logs.mustFind(VALE, tomorrow);
  const log: DailyLog = { date: row.date, timeZone: row.timeZone, hours: row.hours };
  const fewer = new StationModel({ ...day.data, rules: day.data.rules.slice(1) });
  return table(
    'Rules, on the demo station',
    ['what', 'median'],
    [
      ['the week laid out, once', ms(median(() => weekDemand(model)))],
      ['headroom of the slowest rule', slowest((rule) => headroomOf(model, demand, rule))],
      ['how it stands to the others', slowest((rule) => relationsOf(rule, data.rules))],
      ['back-test over a week, the slowest rule', slowest((rule) => week.count(rule))],
      ['back-test over four weeks, the slowest rule', slowest((rule) => month.count(rule))],
      ['a day marked anew with a rule off', ms(median(() => new LogInspector(fewer, log).strains()))],
      [
        'a playlist of 5,000 songs checked, with its mend',
        ms(median(() => limitReport(longPlaylist(), STANDARD_LIMITS))),
      ],
    ],
  );
}

/** Songs of four hundred acts, one of which comes round too often here and there. */
function longPlaylist(): PlaylistSong[] {
  return Array.from({ length: 5000 }, (_, n) => {
    const act = n % 97 < 6 ? 0 : (n * 7919) % 400;
    return {
      position: n + 1,
      start: n * 215,
      startText: String(n * 215),
      title: `Song ${n % 4000}`,
      artist: `Act ${act}`,
      album: `Album ${act} ${n % 2}`,
      file: '',
      line: n + 2,
    };
  });
}
