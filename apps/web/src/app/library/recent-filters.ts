const MOST = 8;

/** The filters a person asked for last at a station, latest first, kept in the browser. */
export class RecentFilters {
  constructor(private readonly stationId: string) {}

  all(): string[] {
    try {
      const kept: unknown = JSON.parse(localStorage.getItem(this.key) ?? '[]');
      return Array.isArray(kept) ? kept.filter((one): one is string => typeof one === 'string').slice(0, MOST) : [];
    } catch {
      return [];
    }
  }

  remember(text: string): void {
    const filter = text.trim();
    if (filter.length < 2) return;
    const others = this.all().filter((one) => one !== filter);
    localStorage.setItem(this.key, JSON.stringify([filter, ...others].slice(0, MOST)));
  }

  private get key(): string {
    return `fuller-recent-filters:${this.stationId}`;
  }
}
