import { afterEach, describe, expect, it } from '@jest/globals';
import { StreamClient } from '../playout/stream-client.js';
import { listenersAt, startStream, type StreamServer } from './stream-server.js';

const T0 = Date.UTC(2026, 10, 24, 8);
const stops: (() => unknown)[] = [];
afterEach(async () => {
  for (const stop of stops.splice(0)) await stop();
});

/** A client whose clock is set by hand, told the time again and again. */
function clientOf({ port }: StreamServer, more: { password?: string; reconnectMs?: number | null } = {}) {
  const clock = { ms: T0 };
  const target = { host: '127.0.0.1', port, password: 'swan', name: 'Vale', description: 'Folk', reconnectMs: 10_000 };
  const client = new StreamClient({ ...target, ...more }, () => clock.ms);
  const timer = setInterval(() => client.tick(), 5);
  stops.push(
    () => clearInterval(timer),
    () => client.close(),
  );
  return { client, clock };
}
const until = async (holds: () => boolean): Promise<void> => {
  for (let n = 0; n < 400 && !holds(); n++) await new Promise((resolve) => setTimeout(resolve, 5));
  expect(holds()).toBe(true);
};
const server = async (): Promise<StreamServer> => {
  const one = await startStream({ port: 0, controlPort: 0, password: 'swan' });
  stops.push(() => one.stop());
  return one;
};

describe('a stream', () => {
  it('takes a source with its password, its name and what plays, and counts who listens', async () => {
    const stream = await server();
    const { client } = clientOf(stream);
    await until(() => client.status.state === 'connected');
    client.tell({ artist: 'Oak', title: 'Ash' });
    await until(() => client.status.listeners === listenersAt(T0));
    const state = (await (await fetch(`${stream.url}/state`)).json()) as object;
    expect(state).toMatchObject({
      source: { name: 'Vale', description: 'Folk' },
      now: { artist: 'Oak', title: 'Ash' },
    });
    expect(listenersAt(T0)).toBeGreaterThan(listenersAt(Date.UTC(2026, 10, 24, 3)));
  });

  it('turns a wrong password and a second source away, in words', async () => {
    const stream = await server();
    const { client: wrong } = clientOf(stream, { password: 'goose', reconnectMs: null });
    await until(() => wrong.status.state === 'refused');
    expect(wrong.status).toMatchObject({ why: 'The password is wrong.', retryAtMs: null });
    const { client: first } = clientOf(stream);
    await until(() => first.status.state === 'connected');
    const { client: second } = clientOf(stream, { reconnectMs: null });
    await until(() => second.status.state === 'refused');
    expect(second.status.why).toBe('Another source is connected.');
  });

  it('that is dropped is connected again after the wait, by the clock of the player, and not before', async () => {
    const stream = await server();
    const { client, clock } = clientOf(stream);
    await until(() => client.status.state === 'connected');
    clock.ms += 60_000;
    await fetch(`${stream.url}/drop`, { method: 'POST' });
    await until(() => client.status.state === 'down');
    expect(client.status).toMatchObject({ sinceMs: T0 + 60_000, retryAtMs: T0 + 70_000 });
    clock.ms += 9000;
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(client.status.state).toBe('down');
    clock.ms += 1000;
    await until(() => client.status.state === 'connected');
    expect(stream.state().drops).toBe(1);
  });

  it('is given up where it is never to be connected again, until a wait is set', async () => {
    const stream = await server();
    const { client, clock } = clientOf(stream, { reconnectMs: null });
    await until(() => client.status.state === 'connected');
    stream.drop();
    await until(() => client.status.state === 'down');
    clock.ms += 3_600_000;
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(client.status).toMatchObject({ state: 'down', retryAtMs: null });
    client.reconnectMs = 5000;
    await until(() => client.status.state === 'connected');
  });
});
