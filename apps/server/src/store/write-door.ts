import type { Em } from '../db/orm.js';
import type { ChangeSet, NewActivity } from './change-set.js';

/** What came of a write. */
export interface Written<T> {
  /** Null when nothing had to be changed. */
  readonly activityId: string | null;
  readonly label: string;
  readonly value: T;
  /** What an undo left as it is because others have changed it since, in words. */
  readonly left: readonly string[];
}

/** How rows are read and written: what is built on it needs no more of the store. */
export interface WriteDoor {
  readonly read: Em;
  readonly now: () => number;
  /** One transaction, one activity. */
  write<T>(about: NewActivity, work: (changes: ChangeSet) => Promise<T>, undoes?: string | null): Promise<Written<T>>;
  /** One transaction of what is no change a person made, such as notes of work in progress; nothing is told of it. */
  quietly<T>(work: (em: Em) => Promise<T>): Promise<T>;
  /** Does work that takes several transactions; while it goes on, no other server takes it for left behind. */
  underWay<T>(id: string, work: () => Promise<T>): Promise<T>;
  /** Whether no other server works on it. */
  isLeft(id: string): Promise<boolean>;
  /** What is kept in memory is read again where it changed, and others are told of it. */
  noteWritten(about: NewActivity, things: ReadonlySet<string>, logs: ChangeSet['logs']): void;
  /** Whatever is kept in memory is read again. */
  forgetKept(): void;
}
