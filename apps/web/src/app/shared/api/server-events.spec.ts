import { TestBed } from '@angular/core/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { ServerEvent } from '@fuller/contracts';
import { changesOf, type Shown } from './reload-on';
import { ServerEvents } from './server-events';
import { allowed } from '../../testing/role';

/** The browser's streams and channels, as far as a tab uses them. */
class Stream {
  static readonly open: Stream[] = [];
  onmessage: (message: { data: string }) => void = () => {};
  closed = false;

  constructor(readonly url: string) {
    Stream.open.push(this);
  }

  close(): void {
    this.closed = true;
  }

  send(event: ServerEvent): void {
    this.onmessage({ data: JSON.stringify(event) });
  }
}
class Channel {
  static readonly posted: unknown[] = [];
  onmessage: (message: { data: unknown }) => void = () => {};
  postMessage(message: unknown): void {
    Channel.posted.push(message);
  }
  close(): void {}
}

const ready = (dataRevision: number): ServerEvent => ({ type: 'ready', dataRevision });
const changed = (dataRevision: number, ...what: ('library' | 'logs' | 'catalogue')[]): ServerEvent => ({
  type: 'changed',
  stationId: 'vale',
  clientId: 'other',
  what,
  dataRevision,
});

describe('the stream of events', () => {
  const before = { EventSource: globalThis.EventSource, BroadcastChannel: globalThis.BroadcastChannel };
  let stream: Stream;
  let events: ServerEvents;
  let resumed = 0;

  beforeEach(() => {
    Object.assign(globalThis, { EventSource: Stream, BroadcastChannel: Channel });
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), allowed()] });
    events = TestBed.inject(ServerEvents);
    TestBed.tick();
    stream = Stream.open.at(-1)!;
    resumed = 0;
    events.resumed.subscribe(() => resumed++);
  });
  afterEach(() => {
    TestBed.resetTestingModule();
    Object.assign(globalThis, before);
  });

  it('tells after a break that something was missed only where the data has changed meanwhile', () => {
    stream.send(ready(10));
    expect(resumed).toBe(1);
    stream.send(changed(11, 'library'));
    // The browser opens the stream again by itself, and the server begins with where the data stands.
    stream.send(ready(11));
    expect(resumed).toBe(1);
    stream.send(ready(14));
    expect(resumed).toBe(2);
  });

  it('hands on every event but the first', () => {
    const heard: string[] = [];
    events.events.subscribe(({ type }) => heard.push(type));
    stream.send(ready(10));
    stream.send(changed(11, 'logs'));
    expect(heard).toEqual(['changed']);
  });

  it('is closed with the tab', () => {
    TestBed.resetTestingModule();
    expect(stream.closed).toBe(true);
  });

  it.each<[string, Shown, boolean[]]>([
    ['the library', ['library'], [true, false, false]],
    ['logs, edits by hand apart', ['logs'], [false, true, false]],
    ['logs with every edit', ['logs', 'log edits'], [false, true, true]],
    ['anything that is written down', 'anything', [true, true, false]],
  ])('is followed for %s', (_, shown, expected) => {
    const edit = { type: 'log', dataRevision: 13 } as ServerEvent;
    const heard: boolean[] = [];
    for (const event of [changed(11, 'library'), changed(12, 'logs', 'catalogue'), edit]) {
      let told = false;
      const following = changesOf(events, shown).subscribe(() => (told = true));
      stream.send(event);
      following.unsubscribe();
      heard.push(told);
    }
    expect(heard).toEqual(expected);
  });
});
