import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { EMPTY_WEEK, type WeekPlan } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

/** The week being painted: changed here at once, saved one change after the other. */
@Injectable()
export class WeekDraft {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  private readonly stored = this.store.selectSignal(catalogueFeature.selectWeek);
  private pending = 0;
  private revision = 0;
  private saving: Promise<void> = Promise.resolve();
  readonly plan = signal<WeekPlan>(EMPTY_WEEK);
  /** The week before the last change of this visit, to tell what it did. */
  readonly before = signal<WeekPlan | null>(null);

  constructor() {
    // What the server has is taken over whenever nothing of ours is on its way.
    effect(() => {
      this.stored();
      untracked(() => this.takeOver());
    });
  }

  private takeOver(): void {
    const stored = this.stored();
    // An answer asked for before our last change knows less than we do.
    if (!stored || this.pending > 0 || stored.revision < this.revision) return;
    this.revision = stored.revision;
    this.plan.set({ blocks: stored.blocks, defaultClockId: stored.defaultClockId });
  }

  change(edit: (plan: WeekPlan) => WeekPlan): void {
    const before = this.plan();
    const after = edit(before);
    if (after === before || JSON.stringify(after) === JSON.stringify(before)) return;
    this.plan.set(after);
    this.before.set(before);
    this.pending++;
    // The server counts a revision for every change, so the next one can be sent without asking.
    const revision = this.revision++;
    this.saving = this.changes.follow(
      this.saving.then(async () => {
        const { blocks, defaultClockId } = after;
        const saved = await this.changes.run(
          this.api.saveWeek({ stationId: this.stationId()! }, { revision, blocks, defaultClockId }),
        );
        this.pending--;
        if (saved) return;
        this.revision = 0;
        this.takeOver();
      }),
    );
  }
}
