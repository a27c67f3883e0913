import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import type { DaypartRow } from '@fuller/contracts';
import { hoursInWords, paintHours, WEEK_HOURS } from '@fuller/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api/api';
import { Icon } from '../shared/ui/icon';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import { WeekGrid } from '../shared/ui/week-grid';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { May } from '../shared/session/may';

const NIGHT = Array.from({ length: WEEK_HOURS }, (_, hour) => (hour % 24 < 6 ? '1' : '0')).join('');

/** The dayparts of the station: names for hours of the week that rules can be for. */
@Component({
  selector: 'f-dayparts',
  imports: [May, SmallButton, ButtonDirective, Icon, InputText, KeepOrCancel, WeekGrid],
  template: `<p class="quiet">Hours of the week under a name, for rules to apply in or to differ in.</p>
    @for (daypart of dayparts(); track daypart.id) {
      <div class="daypart">
        <div class="line">
          <input
            pInputText
            pSize="small"
            [fKeepOrCancel]="rename(daypart)"
            #name="kept"
            [value]="daypart.name"
            maxlength="80"
            [attr.aria-label]="'Name of the daypart ' + daypart.name"
            autocomplete="off" />
          <button
            fButton="text"
            (click)="shownId.set(shownId() === daypart.id ? null : daypart.id)"
            [attr.aria-expanded]="shownId() === daypart.id">
            Hours
          </button>
          <button
            fMay="rules"
            pButton
            type="button"
            text
            severity="danger"
            size="small"
            (click)="remove(daypart)"
            [attr.aria-label]="'Delete the daypart ' + daypart.name">
            <f-icon name="delete" [size]="14" />
          </button>
        </div>
        @if (name.refused(); as why) {
          <p class="error-text" role="alert">{{ why }}</p>
        }
        <p class="quiet">{{ hoursOf(daypart) }}</p>
        @if (shownId() === daypart.id) {
          <f-week-grid
            [label]="'Hours of ' + daypart.name"
            [values]="marks()"
            [says]="says"
            [paintable]="true"
            (painted)="paint(daypart, $event)" />
        }
      </div>
    } @empty {
      <p>None yet.</p>
    }
    <button fMay="rules" fButton (click)="create()"><f-icon name="plus" [size]="14" />New daypart</button>`,
  styles: `
    :host {
      display: grid;
      gap: 12px;
      font-size: 14px;
    }
    .daypart {
      display: grid;
      gap: 4px;
    }
    .line {
      display: flex;
      gap: 4px;
    }
    .line input {
      flex: 1;
      min-width: 0;
    }
    button {
      justify-self: start;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Dayparts {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  protected readonly dayparts = this.store.selectSignal(catalogueFeature.selectDayparts);
  protected readonly shownId = signal<string | null>(null);
  protected readonly marks = computed(() => {
    const shown = this.dayparts().find(({ id }) => id === this.shownId());
    return [...(shown?.hours ?? '')].map(Number);
  });
  protected readonly says = (value: number): string => (value ? 'in the daypart' : 'not in it');

  protected hoursOf({ hours }: DaypartRow): string {
    return hoursInWords(hours.includes('0') ? hours : null);
  }

  private change(daypart: DaypartRow, patch: Partial<Pick<DaypartRow, 'name' | 'hours'>>) {
    return this.api.patchDaypart(
      { stationId: this.stationId()!, id: daypart.id },
      { revision: daypart.revision, ...patch },
    );
  }

  protected rename(daypart: DaypartRow): (name: string) => Promise<string | null> {
    return (name) => this.changes.attempt(this.change(daypart, { name }));
  }

  protected paint(
    daypart: DaypartRow,
    { cells, on }: { readonly cells: readonly number[]; readonly on: boolean },
  ): void {
    const hours = paintHours(daypart.hours, cells, on) ?? '1'.repeat(WEEK_HOURS);
    void this.changes.run(this.change(daypart, { hours }));
  }

  protected remove({ id }: DaypartRow): void {
    void this.changes.run(this.api.deleteDaypart({ stationId: this.stationId()!, id }));
  }

  protected async create(): Promise<void> {
    const taken = new Set(this.dayparts().map(({ name }) => name));
    let name = 'Night';
    for (let n = 2; taken.has(name); n++) name = `Daypart ${n}`;
    const made = await this.changes.run(
      this.api.createDaypart({ stationId: this.stationId()! }, { name, hours: NIGHT }),
    );
    if (made) this.shownId.set(made.id);
  }
}
