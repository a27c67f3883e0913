import { DestroyRef, effect, inject, Injectable } from '@angular/core';
import type { ServerEvent } from '@fuller/contracts';
import { Subject } from 'rxjs';
import { Session } from '../session/session.store';

const NAME = 'fuller-events';

/**
 * The server's event stream. A browser opens few connections to one server, so only one tab holds
 * the stream and tells the others; when it goes away, another takes over. Where tabs cannot agree
 * on one (outside secure pages), each holds its own.
 */
@Injectable({ providedIn: 'root' })
export class ServerEvents {
  private readonly subject = new Subject<ServerEvent>();
  private readonly resumedSubject = new Subject<void>();
  private readonly channel = new BroadcastChannel(NAME);
  private end: () => void = () => {};
  /** Of the last event that was heard. */
  private dataRevision: number | null = null;

  readonly events = this.subject.asObservable();
  /** Fires when the stream is there again after a break: something may have been missed. */
  readonly resumed = this.resumedSubject.asObservable();

  constructor() {
    this.channel.onmessage = (message: MessageEvent<ServerEvent>) => this.take(message.data);
    // Nobody who has not signed in is told anything.
    const session = inject(Session);
    effect(() => {
      if (session.isIn()) this.begin();
      else this.end();
    });
    // A page kept for going back must not hold the stream.
    const hide = (): void => this.end();
    const show = (event: PageTransitionEvent): void => {
      if (!event.persisted || !session.isIn()) return;
      this.begin();
      this.resumedSubject.next();
    };
    window.addEventListener('pagehide', hide);
    window.addEventListener('pageshow', show);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener('pagehide', hide);
      window.removeEventListener('pageshow', show);
      this.end();
      this.channel.close();
    });
  }

  private begin(): void {
    const waiting = new AbortController();
    let release: () => void = () => {};
    this.end = () => {
      waiting.abort();
      release();
    };
    const hold = (): Promise<void> =>
      new Promise((resolve) => {
        const close = this.openStream();
        release = () => {
          close();
          resolve();
        };
      });
    if (navigator.locks) navigator.locks.request(NAME, { signal: waiting.signal }, hold).catch(() => undefined);
    else void hold();
  }

  private openStream(): () => void {
    const source = new EventSource('/api/events');
    source.onmessage = (message) => this.tell(JSON.parse(message.data as string) as ServerEvent);
    return () => source.close();
  }

  private tell(event: ServerEvent): void {
    this.take(event);
    if (navigator.locks) this.channel.postMessage(event);
  }

  private take(event: ServerEvent): void {
    // A tab that heard nothing yet cannot know what was told before it listened.
    const missed = event.type === 'ready' && event.dataRevision !== this.dataRevision;
    this.dataRevision = event.dataRevision;
    if (missed) this.resumedSubject.next();
    if (event.type !== 'ready') this.subject.next(event);
  }
}
