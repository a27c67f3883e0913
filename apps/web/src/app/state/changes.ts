import { inject, Injectable } from '@angular/core';
import type { Change } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { ApiError } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { catalogueActions } from './catalogue.feature';
import { undoActions } from './undo.feature';

/** Sends changes so that they can be undone and their failures are told. */
@Injectable({ providedIn: 'root' })
export class Changes {
  private readonly store = inject(Store);
  private readonly notices = inject(Notices);

  private settled: Promise<unknown> = Promise.resolve();

  /** Settles when every change on its way has been answered, so that undo knows what the last one was. */
  idle(): Promise<unknown> {
    return this.settled;
  }

  /** Lets undo wait for a change that is still on its way. */
  follow<T>(change: Promise<T>): Promise<T> {
    this.settled = Promise.allSettled([this.settled, change]);
    return change;
  }

  /** The answer of a change, or null after its failure has been told. */
  run<T extends { activityId: string | null; label: string }>(sending: Promise<T>): Promise<T | null> {
    return this.follow(this.answer(sending));
  }

  /** Sends a change; why it was refused, null when it was made. For fields that tell it themselves. */
  async attempt(sending: Promise<{ activityId: string | null; label: string }>): Promise<string | null> {
    const answer = await this.made(sending);
    return typeof answer === 'string' ? answer : null;
  }

  /** Sends a change; its answer, or why it was refused. For forms that tell it themselves. */
  async made<T extends { activityId: string | null; label: string }>(sending: Promise<T>): Promise<T | string> {
    try {
      const answer = await this.follow(sending);
      this.remember(answer);
      return answer;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  }

  private async answer<T extends { activityId: string | null; label: string }>(sending: Promise<T>): Promise<T | null> {
    try {
      const answer = await sending;
      this.remember(answer);
      return answer;
    } catch (error) {
      this.tell(error);
      return null;
    }
  }

  /** Puts a change among those this tab can undo. */
  remember({ activityId, label }: { activityId: string | null; label: string }): void {
    if (activityId !== null) this.store.dispatch(undoActions.did({ change: { activityId, label } satisfies Change }));
  }

  tell(error: unknown): void {
    this.notices.fail(error instanceof Error ? error.message : String(error));
    // After a conflict the screen shows what is there now.
    if (error instanceof ApiError && error.code === 'CONFLICT') this.store.dispatch(catalogueActions.reload());
  }
}
