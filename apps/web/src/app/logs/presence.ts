import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { filter } from 'rxjs';
import { Api, CLIENT_ID } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';

/** Who has not been heard of for so long has left. */
const GONE_MS = 50_000;
const HEARTBEAT_MS = 20_000;
/** Moving through a log quickly is told once, where it ends. */
const SETTLED_MS = 250;

interface Somebody {
  readonly date: string;
  readonly entryId: string | null;
  readonly atMs: number;
}

/** Where others are in the logs of the station, told to them as well. */
@Injectable()
export class Presence {
  private readonly api = inject(Api);
  private readonly others = signal<ReadonlyMap<string, Somebody>>(new Map());
  private stationId = '';
  private here: { readonly date: string; readonly entryId: string | null } | null = null;
  private settling: ReturnType<typeof setTimeout> | null = null;

  /** How many others have the open day before them. */
  readonly count = computed(() => this.onDay().length);
  /** Entries of the open day at which somebody else is. */
  readonly entryIds = computed(() => new Set(this.onDay().flatMap(({ entryId }) => entryId ?? [])));
  private readonly date = signal('');
  private readonly onDay = computed(() => [...this.others().values()].filter(({ date }) => date === this.date()));

  constructor() {
    inject(ServerEvents)
      .events.pipe(
        filter((event) => event.type === 'presence'),
        takeUntilDestroyed(),
      )
      .subscribe((event) => {
        if (event.clientId === CLIENT_ID || event.stationId !== this.stationId) return;
        const isNew = !this.others().has(event.clientId);
        this.others.update((others) => {
          const next = new Map(others);
          if (event.date === null) next.delete(event.clientId);
          else next.set(event.clientId, { date: event.date, entryId: event.entryId, atMs: Date.now() });
          return next;
        });
        // Who comes later learns where this one is.
        if (isNew && event.date !== null) this.tell();
      });
    const beat = setInterval(() => {
      this.forgetGone();
      this.tell();
    }, HEARTBEAT_MS);
    inject(DestroyRef).onDestroy(() => {
      clearInterval(beat);
      if (this.settling) clearTimeout(this.settling);
      this.here = null;
      this.send(null, null);
    });
  }

  /** This one is at an entry of a day, or at none of it. */
  at(stationId: string, date: string, entryId: string | null): void {
    if (stationId !== this.stationId) this.others.set(new Map());
    this.stationId = stationId;
    this.date.set(date);
    this.here = { date, entryId };
    if (this.settling) clearTimeout(this.settling);
    this.settling = setTimeout(() => this.tell(), SETTLED_MS);
  }

  private tell(): void {
    if (this.here) this.send(this.here.date, this.here.entryId);
  }

  private send(date: string | null, entryId: string | null): void {
    if (this.stationId)
      void this.api.tellPresence({ stationId: this.stationId }, { date, entryId }).catch(() => undefined);
  }

  private forgetGone(): void {
    const since = Date.now() - GONE_MS;
    this.others.update((others) => {
      const here = [...others].filter(([, { atMs }]) => atMs >= since);
      return here.length === others.size ? others : new Map(here);
    });
  }
}
