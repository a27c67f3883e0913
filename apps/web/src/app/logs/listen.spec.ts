import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Api } from '../shared/api/api';
import { Listen } from './listen';

const LONG = { itemId: 'long', durationMs: 200_000, segueMs: 4000 };
const NEXT = { itemId: 'next', durationMs: 180_000, segueMs: 0 };

/** A player that notes what it is told. */
class FakePlayer {
  static all: FakePlayer[] = [];
  static refuses = false;
  currentTime = 0;
  onended: (() => void) | null = null;
  paused = true;
  constructor(readonly src: string) {
    FakePlayer.all.push(this);
  }
  async play(): Promise<void> {
    if (FakePlayer.refuses) throw new Error('no such audio');
    this.paused = false;
  }
  pause(): void {
    this.paused = true;
  }
  removeAttribute(): void {}
}

describe('listening to a log', () => {
  let listen: Listen;
  const playing = () =>
    FakePlayer.all.filter(({ paused }) => !paused).map(({ src, currentTime }) => [src, currentTime]);
  beforeEach(() => {
    jest.useFakeTimers();
    FakePlayer.all = [];
    FakePlayer.refuses = false;
    (globalThis as { Audio: unknown }).Audio = FakePlayer;
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        Listen,
        { provide: Api, useValue: { urlOf: (_: string, { id }: { id: string }) => `/audio/${id}` } },
      ],
    });
    listen = TestBed.inject(Listen);
  });
  afterEach(() => {
    jest.useRealTimers();
  });

  it('plays an entry from its beginning, and stops at the second press and at its end', async () => {
    await listen.entry(LONG);
    expect([playing(), listen.playing()]).toEqual([[['/audio/long', 0]], 'entry']);
    await listen.entry(LONG);
    expect([playing(), listen.playing()]).toEqual([[], null]);
    await listen.entry(LONG);
    FakePlayer.all.at(-1)!.onended!();
    expect(listen.playing()).toBeNull();
  });

  it('plays a join from six seconds before the segue point, the next one from that very point', async () => {
    await listen.join(LONG, NEXT);
    expect(playing()).toEqual([['/audio/long', 190]]);
    await jest.advanceTimersByTimeAsync(5999);
    expect(playing()).toHaveLength(1);
    await jest.advanceTimersByTimeAsync(1);
    expect(playing()).toEqual([
      ['/audio/long', 190],
      ['/audio/next', 0],
    ]);
    listen.stop();
    expect(playing()).toEqual([]);
  });

  it('says what cannot be played, and a join that was stopped does not go on', async () => {
    FakePlayer.refuses = true;
    await listen.entry(LONG);
    expect([listen.failed(), listen.playing()]).toEqual(['no such audio', null]);
    FakePlayer.refuses = false;
    await listen.join(LONG, NEXT);
    listen.stop();
    await jest.advanceTimersByTimeAsync(10_000);
    expect(playing()).toEqual([]);
  });
});
