import { Worker } from 'node:worker_threads';
import path from 'node:path';
import { expect, it } from '@jest/globals';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { openDatabase } from './open.js';
import { describeOfFile } from '../testing/database.js';

/** Keeps a database to itself for a while, as a connection does that is the first to open it or the last to leave it. */
const HOLDER = `
  const { parentPort, workerData } = require('node:worker_threads');
  const Database = require(workerData.driver);
  const held = new Database(workerData.file);
  held.exec('pragma journal_mode = wal; pragma locking_mode = exclusive; create table station (id)');
  parentPort.postMessage('held');
  Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 400);
  held.close();
`;

describeOfFile('the database', () => {
  it('is opened by readers that wait while another connection has it to itself', async () => {
    const dataDir = await mkdtemp(path.join(tmpdir(), 'fuller-orm-'));
    const file = path.join(dataDir, 'fuller.db');
    const driver = path.resolve('node_modules/libsql/index.js');
    const holder = new Worker(HOLDER, { eval: true, workerData: { file, driver } });
    await new Promise((resolve, reject) => holder.once('message', resolve).once('error', reject));
    const reader = await openDatabase(dataDir, 'read');
    const [row] = await reader.em
      .getConnection()
      .execute<{ stations: number }[]>('select count(*) as stations from station');
    expect(row!.stations).toBe(0);
    await reader.close();
    await holder.terminate();
    await rm(dataDir, { recursive: true });
  });
});
