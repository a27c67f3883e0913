import { inject, Injectable, signal } from '@angular/core';
import { Api } from './api/api';
import { reloadOn } from './api/reload-on';

/** How many matters Tidy has to review; kept up as the library changes. */
@Injectable({ providedIn: 'root' })
export class TidyCount {
  private readonly api = inject(Api);
  /** Null until it is known. */
  readonly matters = signal<number | null>(null);
  private stationId: string | null = null;

  constructor() {
    // Looking for doubles is long work for the server.
    reloadOn(['library'], () => this.read(), { burstMs: 400 });
  }

  follow(stationId: string): void {
    if (stationId === this.stationId) return;
    this.stationId = stationId;
    this.matters.set(null);
    void this.read();
  }

  private async read(): Promise<void> {
    const { stationId } = this;
    if (stationId === null) return;
    try {
      const { artists, songs, albums } = await this.api.tidy({ stationId });
      if (stationId === this.stationId) this.matters.set(artists.length + songs.length + albums.length);
    } catch {
      // What is known stays; Tidy itself says what is wrong.
    }
  }
}
