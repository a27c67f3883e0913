import { inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { ChangedThing, ServerEvent } from '@fuller/contracts';
import { debounceTime, filter, merge, type Observable } from 'rxjs';
import { ServerEvents } from './server-events';

/** Changes that come in a burst are answered with one reload. */
const BURST_MS = 60;

/** What a place shows: of some kinds; edits of logs by hand come with what they changed, so few read logs again for them. */
export type Shown = readonly (ChangedThing | 'log edits')[] | 'anything';

function concerns(event: ServerEvent, shown: Shown): boolean {
  if (event.type === 'log') return shown !== 'anything' && shown.includes('log edits');
  return event.type === 'changed' && (shown === 'anything' || event.what.some((thing) => shown.includes(thing)));
}

/** Tells when what a place shows has changed on the server, by this tab or another, or may have been missed. */
export function changesOf({ events, resumed }: ServerEvents, shown: Shown): Observable<ServerEvent | void> {
  return merge(resumed, events.pipe(filter((event) => concerns(event, shown))));
}

/** Reads again whenever what a place shows has changed on the server, as long as what asks for it lives. */
export function reloadOn(shown: Shown, reload: () => unknown, { burstMs = BURST_MS } = {}): void {
  changesOf(inject(ServerEvents), shown)
    .pipe(debounceTime(burstMs), takeUntilDestroyed())
    .subscribe(() => reload());
}
