import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { Api } from '../shared/api/api';

/** So much of an entry is heard before its segue point, milliseconds. */
const BEFORE_SEGUE_MS = 6000;

/** What of a log is listened to. */
export interface Heard {
  readonly itemId: string;
  readonly durationMs: number;
  /** How long before its end the next one begins, milliseconds. */
  readonly segueMs: number;
}

/** Plays entries of a log, and how one joins the next. */
@Injectable()
export class Listen {
  private readonly api = inject(Api);
  private readonly players: HTMLAudioElement[] = [];
  private joining: ReturnType<typeof setTimeout> | null = null;
  /** What plays: an entry by itself, or its join to the next. */
  readonly playing = signal<'entry' | 'join' | null>(null);
  readonly failed = signal<string | null>(null);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  /** Plays an entry from its beginning; what plays already stops. */
  async entry(heard: Heard): Promise<void> {
    const wasPlaying = this.playing() === 'entry';
    this.stop();
    if (wasPlaying) return;
    await this.play(heard.itemId, 0, () => this.stop());
    if (!this.failed()) this.playing.set('entry');
  }

  /** Plays the last seconds of an entry and, from its segue point, the next one. */
  async join(heard: Heard, next: Heard): Promise<void> {
    const wasPlaying = this.playing() === 'join';
    this.stop();
    if (wasPlaying) return;
    const segueAtMs = Math.max(0, heard.durationMs - heard.segueMs);
    const fromMs = Math.max(0, segueAtMs - BEFORE_SEGUE_MS);
    await this.play(heard.itemId, fromMs, () => undefined);
    if (this.failed()) return;
    this.playing.set('join');
    this.joining = setTimeout(() => void this.play(next.itemId, 0, () => this.stop()), segueAtMs - fromMs);
  }

  stop(): void {
    if (this.joining) clearTimeout(this.joining);
    this.joining = null;
    for (const player of this.players.splice(0)) {
      player.onended = null;
      player.pause();
      player.removeAttribute('src');
    }
    this.playing.set(null);
    this.failed.set(null);
  }

  private async play(itemId: string, fromMs: number, ended: () => void): Promise<void> {
    const player = new Audio(this.api.urlOf('audio', { id: itemId }));
    this.players.push(player);
    player.onended = ended;
    player.currentTime = fromMs / 1000;
    try {
      await player.play();
    } catch (error) {
      // A player that was stopped before it began has not failed.
      if (!this.players.includes(player)) return;
      this.stop();
      this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }
}
