import { computed, inject, Injectable, signal } from '@angular/core';
import type { Week } from '@fuller/contracts';
import { EMPTY_WEEK, type WeekPlan } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Draft } from '../shared/draft';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

/** The week being painted: changed here at once, saved one change after the other. */
@Injectable()
export class WeekDraft {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  private readonly stored = this.store.selectSignal(catalogueFeature.selectWeek);
  /** The week goes by its station, so that those of two are never taken for one. */
  private readonly draft = new Draft<Week & { id: string }>(
    computed(() => {
      const [week, id] = [this.stored(), this.stationId()];
      return week && id ? { ...week, id } : null;
    }),
    inject(Changes),
  );
  readonly plan = computed<WeekPlan>(() => {
    const week = this.draft.value();
    return week ? { blocks: week.blocks, defaultClockId: week.defaultClockId } : EMPTY_WEEK;
  });
  /** The week before the last change of this visit, to tell what it did. */
  readonly before = signal<WeekPlan | null>(null);

  change(edit: (plan: WeekPlan) => WeekPlan): void {
    const [before, stationId] = [this.plan(), this.stationId()];
    const after = edit(before);
    if (!stationId || after === before || JSON.stringify(after) === JSON.stringify(before)) return;
    this.before.set(before);
    const patch = { blocks: [...after.blocks], defaultClockId: after.defaultClockId };
    void this.draft.save(patch, (revision) => this.api.saveWeek({ stationId }, { revision, ...patch }));
  }
}
