import { DestroyRef, inject, Injectable } from '@angular/core';
import type { ServerEvent } from '@fuller/contracts';
import { Subject } from 'rxjs';

const NAME = 'fuller-events';
/** What tabs tell each other: an event of the server, or that some may have been missed. */
type Told = ServerEvent | { readonly type: 'resumed' };

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

  readonly events = this.subject.asObservable();
  /** Fires when the stream is there again after a break: something may have been missed. */
  readonly resumed = this.resumedSubject.asObservable();

  constructor() {
    this.channel.onmessage = (message: MessageEvent<Told>) => this.take(message.data);
    this.begin();
    // A page kept for going back must not hold the stream.
    const hide = (): void => this.end();
    const show = (event: PageTransitionEvent): void => {
      if (!event.persisted) return;
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
    // A tab that takes over cannot know what was told before it listened.
    let missed = Boolean(navigator.locks);
    source.onmessage = (message) => this.tell(JSON.parse(message.data as string) as ServerEvent);
    source.onerror = () => (missed = true);
    source.onopen = () => {
      if (missed) this.tell({ type: 'resumed' });
      missed = false;
    };
    return () => source.close();
  }

  private tell(told: Told): void {
    this.take(told);
    if (navigator.locks) this.channel.postMessage(told);
  }

  private take(told: Told): void {
    if (told.type === 'resumed') this.resumedSubject.next();
    else this.subject.next(told);
  }
}
