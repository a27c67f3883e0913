import { Injectable, signal } from '@angular/core';
import type { LogItem } from '@fuller/contracts';
import type { LogEntry } from '@fuller/core';

/** Entries of a log that were cut or copied, to be pasted into the same day or another one of this station. */
@Injectable({ providedIn: 'root' })
export class LogClipboard {
  readonly held = signal<{
    readonly stationId: string;
    readonly entries: readonly LogEntry[];
    readonly items: readonly LogItem[];
  } | null>(null);
}
