import { handOverSettings } from '@fuller/contracts';
import { existsSync } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  allEntries,
  detectFormat,
  itemOf,
  OUTPUT_FORMATS,
  REPORT_KINDS,
  type ReportKind,
  readRows,
  StationModel,
  type DailyLog,
  expectedStarts,
  framedClock,
  HOUR_MS,
  usageOfClocks,
  type Draw,
  nameKey,
  parseCredits,
} from '@fuller/core';
import { inlineCompute, ItemEntity, openServices, PlayEntity, type Services } from '@fuller/server';
import { parseFile } from 'music-metadata';
import { makeData, VALE } from './index.js';
import { demoLibrary } from './library.js';
import { withMess } from './mess.js';
import { Dice } from './random.js';

const NOW = Date.UTC(2026, 10, 23, 12);
const TODAY = '2026-11-23';

describe('the demo library', () => {
  const items = demoLibrary(new Dice(971));
  const songs = items.filter((item) => item.kind === 'song');

  it('is the same for the same dice', () => {
    expect(demoLibrary(new Dice(971))).toEqual(items);
  });

  it('adds up like a real one', () => {
    expect([songs.length, items.length]).toEqual([1400, 1708]);
    const lengths = songs.map((song) => song.durationMs / 1000);
    const mean = lengths.reduce((sum, one) => sum + one, 0) / lengths.length;
    expect(Math.abs(mean - 218)).toBeLessThan(8);
    expect(Math.min(...lengths)).toBeGreaterThanOrEqual(110);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(570);
    const acts = new Map<string, number>();
    for (const song of songs) {
      const main = nameKey(parseCredits(song.artist)[0]!.name);
      acts.set(main, (acts.get(main) ?? 0) + 1);
    }
    expect(acts.size).toBeGreaterThan(350);
    expect(acts.size).toBeLessThan(520);
    expect(Math.max(...acts.values())).toBeGreaterThanOrEqual(10);
    const few = [...acts.values()].filter((count) => count <= 3).length;
    expect(few / acts.size).toBeGreaterThan(0.5);
    const featured = songs.filter((song) => song.artist.includes(' feat. ')).length;
    expect(featured / songs.length).toBeGreaterThan(0.06);
    expect(new Set(songs.map((song) => nameKey(song.title))).size).toBe(1400);
    expect(new Set(items.map((item) => item.cart)).size).toBe(1708);
  });

  it('holds an honest mess, and no more', () => {
    const dice = new Dice(971);
    const clean = demoLibrary(dice);
    const messy = withMess(dice, clean);
    const changed = messy.filter((item, index) => JSON.stringify(item) !== JSON.stringify(clean[index]));
    // A song or two may be touched twice.
    expect(11 + 6 + 5 + 3 - changed.length).toBeLessThanOrEqual(2);
    expect(changed.length).toBeLessThanOrEqual(25);
    expect(messy.filter((item) => item.file === null)).toHaveLength(5);
    expect(messy.filter((item) => item.year !== null && (item.year > 2026 || item.year < 1900))).toHaveLength(3);
  });
});

describe('the demo station', () => {
  let dataDir: string;
  let services: Services;
  beforeAll(async () => {
    dataDir = path.join(await mkdtemp(path.join(os.tmpdir(), 'fuller-demo-')), 'data');
    await makeData({ dataDir, nowMs: NOW, demo: true, historyDays: 2 });
    services = await openServices({ dataDir, now: () => NOW, compute: inlineCompute });
  });
  afterAll(async () => {
    await services.close();
    await rm(path.dirname(dataDir), { recursive: true });
  });

  it('is reported on as its database holds it, planned and aired, hour by hour', async () => {
    const asked = {
      range: { from: '2026-11-16', to: TODAY },
      daypartId: null,
      stationIds: [],
      categoryId: null,
      family: null,
    };
    const em = services.store.read;
    const aired = (await em.find(PlayEntity, { stationId: VALE, startMs: { $lte: NOW } })) as { itemId: string }[];
    const kinds = new Map((await em.find(ItemEntity, {})).map(({ id, kind }) => [id, kind]));
    const songs = aired.filter(({ itemId }) => kinds.get(itemId) === 'song').length;
    expect(songs).toBeGreaterThan(500);
    const sumOf = async (kind: ReportKind, label: string): Promise<number> => {
      const { rows, columns } = await services.reports.report(VALE, kind, asked);
      const at = columns.findIndex((column) => column.label === label);
      return rows.reduce((sum, { cells }) => sum + Number(cells[at] ?? 0), 0);
    };
    expect(await sumOf('songs', 'Aired')).toBe(songs);
    expect(await sumOf('hours', 'All days')).toBe(songs);
    expect(await sumOf('categories', 'Aired')).toBe(aired.length);
    const { log } = await services.logs.view(VALE, TODAY);
    const strains = (await services.logs.view(VALE, TODAY)).strains.length;
    const open = allEntries(log as DailyLog).filter(
      (entry) => entry.kind === 'pick' && entry.itemId === null && !entry.out,
    );
    const ofToday = await services.reports.report(VALE, 'strains', { ...asked, range: { from: TODAY, to: TODAY } });
    const total = ofToday.rows.reduce((sum, { cells }) => sum + Number(cells[1]), 0);
    expect(total).toBe(strains + open.length);
    for (const kind of REPORT_KINDS) expect((await services.reports.report(VALE, kind, asked)).sentence).toMatch(/\.$/);
  });

  it('has a week ahead that keeps every must and nearly every wish, and today with a few things to look at', async () => {
    const days = await services.logs.days(VALE, '2026-11-21', 11);
    expect(days.map((day) => day.state)).toEqual([
      'aired',
      'aired',
      'open',
      ...Array.from({ length: 7 }, () => 'complete'),
      'none',
    ]);
    expect(days[2]).toMatchObject({ open: 2 });
    expect(days[2]!.strains).toBeGreaterThan(0);
    const { rules } = await services.catalogue.catalogue(VALE);
    const wishes = new Set(rules.filter(({ strength }) => strength === 'soft').map(({ id }) => id));
    expect([rules.length, wishes.size]).toEqual([7, 5]);
    for (const { date, open } of days.slice(3, 10)) {
      const { strains } = await services.logs.view(VALE, date);
      expect([date, open, strains.filter(({ ruleId }) => !wishes.has(ruleId))]).toEqual([date, 0, []]);
      expect(strains.length).toBeLessThanOrEqual(5);
    }
    expect(await services.limits.checkDays(VALE, '2026-11-24', 7, false)).toMatchObject({ pass: true, violations: [] });
  });

  it('announces in its week ahead only what comes, keeps promises or names them, and fills its themes', async () => {
    const told = await services.sponsorWeek.shortfalls(VALE, '2026-11-24', '2026-11-30');
    const { shows } = await services.catalogue.catalogue(VALE);
    const shortfalls = told.map(({ sponsor, date }) => `${sponsor} ${date}`);
    const seen = { teases: 0, sweepers: 0, themed: 0, messages: 0, list: 0 };
    for (let day = 24; day <= 30; day++) {
      const date = `2026-11-${day}`;
      const { log, items } = await services.logs.view(VALE, date);
      const byId = new Map(items.map((item) => [item.id, item]));
      const played = allEntries(log as DailyLog).filter((entry) => !entry.out && entry.kind !== 'note');
      let lastSponsor = '';
      const runs = new Map<string, string[]>();
      for (const [place, entry] of played.entries()) {
        const item = byId.get(itemOf(entry) ?? '');
        if (!item) continue;
        if (entry.kind === 'tease') {
          seen.teases++;
          const announced = nameKey(item.title.replace('Coming up: ', ''));
          const target = played.slice(place + 1).find(({ id }) => id === entry.boundTo);
          const { title, artist } = byId.get((target && itemOf(target)) ?? '') ?? {};
          if (title)
            expect([nameKey(title), ...parseCredits(artist!).map(({ name }) => nameKey(name))]).toContain(announced);
          else expect([entry.target.to, shows.some(({ name }) => nameKey(name) === announced)]).toEqual(['show', true]);
        }
        if (entry.kind === 'sweeper') {
          seen.sweepers++;
          const next = byId.get(itemOf(played[place + 1]!) ?? '')!;
          expect(item.durationMs).toBeLessThanOrEqual(next.introMs ?? 0);
        }
        if (item.kind === 'sponsor message') {
          seen.messages++;
          expect(item.artist).not.toBe(lastSponsor);
          lastSponsor = item.artist;
        }
        if (entry.kind === 'pick' && entry.theme) {
          seen.themed++;
          const run = `${entry.theme.run} ${entry.theme.group}`;
          runs.set(run, [...(runs.get(run) ?? []), parseCredits(item.artist)[0]!.name]);
        }
        if (entry.listPlace) seen.list++;
      }
      for (const artists of runs.values()) expect([artists.length, new Set(artists).size]).toEqual([2, 1]);
    }
    const { sponsors } = await services.sponsorWeek.week(VALE, TODAY);
    for (const { name, promises } of sponsors)
      for (const { asked, placed } of promises)
        for (const [n, count] of placed.entries())
          if (n > 0 && count < asked[n]!) expect(shortfalls).toContain(`${name} 2026-11-${23 + n}`);
    expect(seen.teases).toBeGreaterThan(7 * 10);
    expect(seen.sweepers).toBeGreaterThan(7 * 5);
    expect(seen.themed).toBe(4);
    expect(seen.messages).toBeGreaterThan(7 * 24);
    expect(seen.list).toBeGreaterThan(20);
  });

  it('has clocks that come out at the hour, with breaks on their marks', async () => {
    const { clocks, categories, clockItems, week, shows } = await services.catalogue.catalogue(VALE);
    const average = new Map(categories.map((category) => [category.id, category.averageMs]));
    const length = new Map(clockItems.map((item) => [item.id, item.durationMs]));
    const lengths = {
      averageOf: ({ categoryId }: Draw) => average.get(categoryId) ?? 0,
      lengthOf: (id: string) => length.get(id) ?? 0,
    };
    const plan = { week, shows, dates: [], framing: week.framing, clocks };
    const onAir = clocks.filter(({ id }) => usageOfClocks(plan).has(id));
    expect(onAir.length).toBeGreaterThanOrEqual(9);
    for (const clock of onAir) {
      const lines = framedClock(clock, week.framing, clocks, lengths).map(({ line }) => line);
      const expected = expectedStarts(lines, lengths);
      expect(Math.abs(expected.totalMs - HOUR_MS)).toBeLessThan(60_000);
      for (const line of expected.lines)
        if (lines.some(({ id, kind }) => id === line.lineId && kind === 'break'))
          expect(Math.abs(line.driftMs ?? 0)).toBeLessThan(60_000);
    }
  });

  it('plays what it has audio for, and the files say what they are', async () => {
    const { files, heldBack } = await services.handOver.files(
      VALE,
      '2026-11-24',
      handOverSettings({ pattern: '{date}.m3u8', hourly: false }),
    );
    const named = files[0]!.shown.split('\n').filter((line) => line && !line.startsWith('#'));
    expect(named.length).toBeGreaterThan(20);
    expect(named.every((file) => existsSync(file))).toBe(true);
    // Only the few honest gaps are silent; sweepers need a format that can say them.
    expect(heldBack.filter(({ why }) => why !== 'break' && why !== 'no cues').length).toBeLessThan(6);
    expect(new Set(heldBack.map(({ why }) => why)).has('file not there')).toBe(false);
    const { common, format } = await parseFile(path.join(services.folders.audio, 'incoming/07 Winding Hole.wav'), {
      duration: true,
    });
    expect(common).toMatchObject({ title: 'Winding Hole', artist: 'Tess Wexmoor', album: 'Towpath Demos' });
    expect(format.duration).toBeCloseTo(38, 1);
  });

  it.each(OUTPUT_FORMATS)('hands its merged log over as %s, row by row as it airs', async (format) => {
    const { log } = await services.logs.view(VALE, TODAY);
    const settings = { pattern: 'day', hourly: false, format, withoutAudio: 'keep with cart', cues: true } as const;
    const named = handOverSettings(settings);
    const { files, heldBack } = await services.handOver.files(VALE, TODAY, named);
    const [file] = files;
    // What airs, in order, as the log itself says.
    const aired = allEntries(log as DailyLog).flatMap((entry) =>
      entry.kind === 'break' && !entry.out ? (entry.spots ?? []).map(({ title }) => title) : (itemOf(entry) ?? []),
    );
    const open = heldBack.filter(({ why }) => why === 'open slot').length;
    expect(file!.rows).toHaveLength(aired.length);
    expect(heldBack.length).toBe(open);
    expect(file!.rows.filter(({ kind }) => kind === 'spot').length).toBeGreaterThan(400);
    for (const [n, row] of file!.rows.entries()) if (row.kind === 'spot') expect(row.title).toBe(aired[n]);
    // A sweeper stands before the song it plays over, and may begin after it.
    const starts = file!.rows.flatMap(({ startMs, cue }) => (cue?.over ? [] : startMs));
    expect([...starts].sort((a, b) => a - b)).toEqual(starts);
    const titles = file!.rows.map(({ title }) => title);
    if (format === 'text') {
      const lines = file!.shown.split('\n').filter((line) => /^\d\d:/.test(line));
      expect(lines.map((line) => line.slice(77, 117).trim())).toEqual(titles.map((title) => title.slice(0, 40).trim()));
    } else {
      const read = readRows(file!.shown, detectFormat(file!.shown), ',');
      if (!read.ok) throw new Error(read.why);
      const at = read.rows[0]!.cells.indexOf('title');
      expect(read.rows.slice(1).map(({ cells }) => cells[at])).toEqual(titles);
    }
  });

  it('is booked by its trade desk: every booked second stands in a break, and each hour ends where its clock planned', async () => {
    const { log } = await services.logs.view(VALE, TODAY);
    const { breaks, tray, file } = await services.traffic.day(VALE, TODAY);
    expect([tray.length, file?.name]).toEqual([2, `spots-${TODAY}.txt`]);
    for (const { plannedMs, bookedMs, marks } of breaks) {
      expect(Math.abs(plannedMs - bookedMs)).toBeLessThanOrEqual(5000);
      expect(marks).toEqual([]);
    }
    const model = new StationModel((await services.logs.deskData(VALE, TODAY)).data);
    const ends = model.timing(log as DailyLog).hours.map(({ overMs }) => Math.abs(overMs));
    expect(ends.filter((overMs) => overMs > 30_000).length).toBeLessThanOrEqual(4);
  });

  it('is never made over data that is there', async () => {
    await writeFile(path.join(dataDir, 'mine.txt'), 'mine');
    await expect(makeData({ dataDir, nowMs: NOW, demo: true })).rejects.toThrow('is not empty');
    expect(existsSync(path.join(dataDir, 'mine.txt'))).toBe(true);
  });
});
