import type { CareFinding } from '@fuller/contracts';
import { addDays, localTimeOf } from '@fuller/core';
import { filesOfItems, lostItems, orphans, rebuildSearch, removeOrphans, searchGap } from '../db/queries/checks.js';
import { factsOf } from '../db/dialect/sqlite/backup-file.js';
import type { AudioRoots } from '../library/audio-roots.js';
import { namingUnseen } from '../sharing/unseen-names.js';
import { breathe } from '../store/change-set.js';
import type { Store } from '../store/store.js';

const EXAMPLES = 5;
/** Logs of the past are what was aired; what they name may be gone. */
const DAYS_BACK = 1;
const FILES_AT_ONCE = 500;

/** Finds what does not add up in a data folder, and mends what is safe to mend. */
export class CheckService {
  constructor(
    private readonly store: Store,
    private readonly audioRoots: AudioRoots,
    private readonly databaseFile: string | null,
    private readonly now: () => number,
  ) {}

  async check(): Promise<CareFinding[]> {
    const em = this.store.read;
    const today = addDays(localTimeOf(this.now(), 'UTC').date, -DAYS_BACK);
    const found: CareFinding[] = (this.databaseFile ? factsOf(this.databaseFile).faults : []).map((text) => ({
      what: text,
      count: 1,
      examples: [],
      mends: false,
    }));
    for (const one of await orphans(em)) found.push({ ...one, examples: [...one.examples], mends: true });
    const gap = await searchGap(em);
    if (gap > 0)
      found.push({ what: 'items the search does not know as they are', count: gap, examples: [], mends: true });
    const lost = await lostItems(em, today);
    push(
      found,
      'entries of logs whose item is gone',
      lost.map(({ station, date }) => `${date}, ${station}`),
    );
    const { gone, foreign } = await namingUnseen(em);
    push(found, 'things that name what is gone', gone);
    push(found, 'things that name what belongs to another station', foreign);
    push(found, 'items whose file is missing', await this.missingFiles());
    return found;
  }

  /** Mends what loses nothing by it: rows that belong to nothing, and the index of the search. */
  async mend(): Promise<CareFinding[]> {
    await this.store.writeUnrecorded(async (em) => {
      await removeOrphans(em);
      if ((await searchGap(em)) > 0) await rebuildSearch(em);
    });
    return this.check();
  }

  private async missingFiles(): Promise<string[]> {
    const missing: string[] = [];
    const all = await filesOfItems(this.store.read);
    for (let from = 0; from < all.length; from += FILES_AT_ONCE) {
      for (const { title, file } of all.slice(from, from + FILES_AT_ONCE))
        if (this.audioRoots.fileAt(file) === null) missing.push(`${title}: ${file}`);
      await breathe();
    }
    return missing;
  }
}

function push(found: CareFinding[], what: string, all: readonly string[]): void {
  if (all.length > 0)
    found.push({ what, count: all.length, examples: [...new Set(all)].slice(0, EXAMPLES), mends: false });
}
