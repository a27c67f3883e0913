import { parentPort, workerData } from 'node:worker_threads';
import path from 'node:path';
import { checkpoint, openDatabase } from '../db/open.js';
import { FullerError } from '../errors.js';
import { inlineCompute } from '../jobs/compute.js';
import { AudioRoots } from '../library/audio-roots.js';
import { askedBy } from '../store/asking.js';
import { Store } from '../store/store.js';
import { carryOut, type LongArgs, type LongTask } from './long-tasks.js';
import type { FromWriter, ToWriter, WriterData } from './protocol.js';
import { Turns } from './turns.js';

const { dataDir, database, roots } = workerData as WriterData;
const port = parentPort!;
/** After so many turns what was written is moved into the database file. */
const TURNS_BETWEEN_CHECKPOINTS = 10;
const tell = (message: FromWriter): void => port.postMessage(message);

const orm = await openDatabase(dataDir, 'write', database);
let written = 0;
const turns = new Turns(
  () => tell({ what: 'turn wanted' }),
  () => {
    tell({ what: 'turn over' });
    // Between two turns, so that no edit has to do it.
    if (++written % TURNS_BETWEEN_CHECKPOINTS === 0) void checkpoint(orm);
  },
);
const store = new Store(
  orm,
  Date.now,
  (event) => tell({ what: 'event', event }),
  (things) => tell({ what: 'committed', things: [...things] }),
  turns,
);
const tools = {
  store,
  compute: inlineCompute,
  now: Date.now,
  audioRoots: new AudioRoots(path.join(dataDir, 'audio'), roots),
};

let stopping = new AbortController();
port.on('message', (message: ToWriter) => {
  if ('turn' in message) turns.begin();
  else if ('quit' in message) process.exit(0);
  else if ('stop' in message) stopping.abort(new FullerError('CONFLICT', message.stop));
  else void askedBy(message.asking, () => work(message.task, message.args));
});

async function work<K extends LongTask>(task: K, args: readonly unknown[]): Promise<void> {
  stopping = new AbortController();
  try {
    const value = await carryOut(tools, task, args as LongArgs<K>, {
      signal: stopping.signal,
      progress: (share, doing) => tell({ what: 'progress', share, doing }),
    });
    tell({ what: 'done', value });
  } catch (error) {
    const known = error instanceof FullerError ? error : null;
    const message = error instanceof Error ? (known ? error.message : (error.stack ?? error.message)) : String(error);
    tell({ what: 'failed', code: known?.code ?? null, message, field: known?.field });
  }
}
