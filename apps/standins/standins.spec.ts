import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addDays, proposeLayout, readTextLog } from '@fuller/core';
import { startReceiver, type Receiver } from './receiver/receiver.js';
import { bookDay, trafficFile, type Contract } from './traffic/index.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-receiver-'));
let receiver: Receiver;
beforeAll(async () => void (receiver = await startReceiver({ folder, port: 0, user: 'a', password: 'b' })));
afterAll(async () => {
  await receiver.stop();
  rmSync(folder, { recursive: true });
});

const sponsor = (name: string, product: string, spotsADay: number, hours: [number, number][]) => ({
  name,
  product,
  spotsADay,
  hours,
  spots: [20, 30].map((seconds, n) => ({ cart: `${name}${n}`, title: 'Autumn', seconds })),
});
const CONTRACT: Contract = {
  format: 'fuller-contract',
  version: 1,
  desk: 'VALE TRADE DESK',
  timeZone: 'Europe/Dublin',
  breaks: Array.from({ length: 7 * 24 * 2 }, (_, n) => ({
    weekday: Math.floor(n / 48),
    hour: Math.floor((n % 48) / 2),
    pastHourSeconds: n % 2 === 0 ? 720 : 2520,
    seconds: 124,
  })),
  sponsors: [
    sponsor('OAK', 'WOOD', 20, [[6, 22]]),
    sponsor('ASH', 'WOOD', 10, [[6, 10]]),
    sponsor('RYE', 'FOOD', 9, [
      [7, 9],
      [16, 18],
    ]),
  ],
  house: [5, 30, 60].map((seconds) => ({ cart: `H${seconds}`, title: 'House', seconds })),
};

describe('the stand-in for a traffic system', () => {
  it('books what the contract says: as often, in its hours, rivals never in one break, no break too long', () => {
    for (let day = 0; day < 14; day++) {
      const lines = bookDay(CONTRACT, addDays('2026-11-23', day));
      const breaks = grouped(lines);
      for (const own of breaks.values()) {
        expect(own.reduce((sum, { seconds }) => sum + seconds, 0)).toBe(120);
        expect(own.filter((line) => ['OAK', 'ASH'].includes(line.sponsor)).length).toBeLessThanOrEqual(1);
      }
      const of = (name: string) => lines.filter((line) => line.sponsor === name);
      expect([of('OAK').length, of('ASH').length, of('RYE').length]).toEqual([20, 8, 8]);
      for (const { atSeconds } of of('RYE')) expect([7, 8, 16, 17]).toContain(Math.floor(atSeconds / 3600));
    }
    expect(bookDay(CONTRACT, '2026-11-23')).toEqual(bookDay(CONTRACT, '2026-11-23'));
  });

  it.each([
    ['2026-11-24', 48],
    ['2027-03-28', 46],
    ['2026-10-25', 50],
  ])('writes a file for %s that is read back line by line, in %d breaks', (date, breaks) => {
    const text = trafficFile(CONTRACT, date);
    const read = readTextLog(text, proposeLayout(text, 'x')!);
    expect([read.date, read.errors]).toEqual([date, []]);
    expect(
      read.spots.map(({ cart, lengthMs, sponsor: who, title }) => ({
        cart,
        seconds: lengthMs / 1000,
        sponsor: who,
        title,
      })),
    ).toEqual(bookDay(CONTRACT, date).map(({ atSeconds: _at, ...line }) => line));
    const starts = read.spots.map(({ atMs }) => atMs);
    expect(starts.filter((atMs, n) => atMs !== starts[n - 1])).toHaveLength(breaks);
  });
});

function grouped<T extends { readonly atSeconds: number }>(lines: readonly T[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const line of lines) groups.set(line.atSeconds, [...(groups.get(line.atSeconds) ?? []), line]);
  return groups;
}

describe('the stand-in for a playout machine', () => {
  it('takes files from who knows the password, in its folder alone, and fails when it is told to', async () => {
    const ask = (method: string, at: string, body?: string, password = 'b') =>
      fetch(`${receiver.url}${at}`, {
        method,
        ...(body === undefined ? {} : { body }),
        headers: { authorization: `Basic ${btoa(`a:${password}`)}`, destination: `${receiver.url}/day.m3u8` },
      });
    const status = async (...asked: Parameters<typeof ask>) => (await ask(...asked)).status;
    expect(await status('PUT', '/day.part', 'x', 'wrong')).toBe(401);
    expect(await status('PUT', '/day.part', 'whole')).toBe(201);
    expect(await status('MOVE', '/day.part')).toBe(201);
    expect(await status('MOVE', '/day.part')).toBe(404);
    expect(await (await ask('GET', '/day.m3u8')).text()).toBe('whole');
    for (const at of ['/..%2Fescape', '/a%2Fb', '/.hidden', '/%']) expect(await status('PUT', at, 'x')).toBe(403);
    expect(await status('POST', '/fail?count=1')).toBe(204);
    expect(await status('PUT', '/late', 'x')).toBe(503);
    expect(await status('PUT', '/late', 'x')).toBe(201);
    expect(await (await ask('GET', '/')).json()).toEqual({ files: ['day.m3u8', 'late'], failing: 0 });
  });
});
