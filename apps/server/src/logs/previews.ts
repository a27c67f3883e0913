import { notFound } from '../errors.js';
import type { GenerateRange } from './generate-checks.js';
import type { MadeDay } from './made-day.js';

/** So many previews are kept at a time, the latest. */
const KEPT = 6;

interface Preview {
  readonly range: GenerateRange;
  readonly days: readonly MadeDay[];
}

/** Days that runs have made to be looked at, until they are accepted or dropped; they do not outlive the server. */
export class Previews {
  private readonly kept = new Map<string, Preview>();

  keep(id: string, range: GenerateRange, days: readonly MadeDay[]): void {
    this.kept.set(id, { range, days });
    for (const old of [...this.kept.keys()].slice(0, -KEPT)) this.kept.delete(old);
  }

  /** Throws NOT_FOUND where it is no longer kept, or is of other stations. */
  mustFind(id: string, stationId: string): Preview {
    const preview = this.kept.get(id);
    if (!preview?.days.some((day) => day.stationId === stationId)) throw notFound('preview', id);
    return preview;
  }

  drop(id: string): void {
    this.kept.delete(id);
  }
}
