import type { Announcement } from '@fuller/contracts';
import type { Em } from '../db/orm.js';
import type { ChangeSet } from './change-set.js';

/** What one server tells the others that work on the same database. */
export interface ToldToOthers {
  /** What a write has changed; everything where it names nothing. */
  readonly changed?: { readonly things: readonly string[]; readonly logs: ChangeSet['logs'] };
  readonly event?: Announcement;
}

/** Other servers on the same database. */
export interface Others {
  /** Tells them with the transaction: they hear of it when it is committed, and only then. */
  tellWith(em: Em, told: ToldToOthers): Promise<void>;
  tell(told: ToldToOthers): void;
}
