import { Newest } from './api/newest';

/**
 * Keeps questions asked while typing in step with their answers: only the answer to the latest
 * question counts, and Enter pressed before it is there takes the first of what is coming.
 */
export class LatestAnswer<T> {
  private readonly newest = new Newest();
  private answered = '';
  private taking: string | null = null;

  constructor(
    private readonly find: (query: string) => Promise<readonly T[]>,
    private readonly show: (found: T[]) => void,
    private readonly take: (first: T) => void,
  ) {}

  async ask(query: string): Promise<void> {
    const isNewest = this.newest.begin();
    const found = await this.find(query);
    if (!isNewest()) return;
    this.show([...found]);
    this.answered = query;
    const taken = this.taking === query ? found[0] : undefined;
    this.taking = null;
    if (taken !== undefined) this.take(taken);
  }

  /** A key was pressed in the field. */
  key(event: KeyboardEvent): void {
    const typed = (event.target as HTMLInputElement).value;
    this.taking = event.key === 'Enter' && typed !== '' && typed !== this.answered ? typed : null;
  }

  /** Something was picked from the list; a pick from a list that answers an older question is ignored. */
  pick(one: T): void {
    if (this.taking === null) this.take(one);
  }
}
