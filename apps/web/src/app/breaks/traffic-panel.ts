import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { formatDuration } from '@fuller/core';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { plural } from '../shared/text/plural';
import { Choice } from '../shared/ui/choice';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { BreaksStore } from './breaks.store';
import { May } from '../shared/session/may';

const PROPOSED = 'proposed';
const MINUTE_MS = 60_000;

/** The day in figures, what waits, what could not be read, and how the station takes traffic logs. */
@Component({
  selector: 'f-traffic-panel',
  imports: [May, Checkbox, Choice, FormsModule, Icon, InputText, SmallButton],
  template: `@if (store.day(); as day) {
      <p>
        {{ spots() }} in {{ store.totals().breaks }} breaks:
        <b class="mono">{{ length(store.totals().bookedMs) }}</b> booked,
        <span class="mono">{{ length(store.totals().plannedMs) }}</span> planned.
      </p>
      @if (source()) {
        <p class="quiet source">From {{ source() }}.</p>
      }
      @for (name of day.waiting; track name) {
        <div class="waiting">
          <span
            ><b>{{ name }}</b> waits in the folder.</span
          >
          <button fMay="traffic" fButton (click)="store.importWaiting(name)">Import</button>
        </div>
      }
      @if (day.errors.length) {
        <h3>
          Lines with errors <span class="quiet">{{ day.errors.length }}</span>
        </h3>
        <ul>
          @for (error of day.errors; track error.line) {
            <li>
              <span class="mono">{{ error.line }}</span> {{ error.why }}<br /><code class="mono quiet">{{
                error.text
              }}</code>
            </li>
          }
        </ul>
      }
    }
    @if (store.setUp(); as setUp) {
      <h3>Traffic logs</h3>
      <div class="form">
        <label class="label" for="tolerance">Tolerance</label>
        <div class="unit">
          <input
            pInputText
            pSize="small"
            #tolerance
            id="tolerance"
            inputmode="decimal"
            [value]="setUp.settings.toleranceMs / 60000"
            (change)="setTolerance(tolerance.value)"
            [attr.aria-invalid]="faults().tolerance ? true : null" />
          minutes
        </div>
        @if (faults().tolerance; as why) {
          <p class="error-text" role="alert">{{ why }}</p>
        }
        <label class="label" for="layout">Layout</label>
        <div class="with-act">
          <f-choice
            fMay="traffic"
            fieldId="layout"
            [options]="layouts()"
            [value]="setUp.settings.layoutId ?? proposed"
            (chosen)="store.set({ layoutId: $event === proposed ? null : $event })" />
          @if (chosen(); as layout) {
            <button
              fMay="traffic"
              fButton="text"
              (click)="store.removeLayout(layout)"
              [attr.aria-label]="'Remove the layout ' + layout.name"
              title="Remove this layout">
              <f-icon name="delete" />
            </button>
          }
        </div>
        <label class="label" for="folder">Folder</label>
        <input
          pInputText
          pSize="small"
          #folder
          id="folder"
          class="mono"
          [value]="setUp.settings.folder ?? ''"
          placeholder="Not set"
          [title]="setUp.folder"
          (change)="setFolder(folder.value)"
          [attr.aria-invalid]="faults().folder || setUp.fault ? true : null" />
        @if (faults().folder ?? setUp.fault; as why) {
          <p class="error-text" role="alert">{{ why }}</p>
        }
        <span></span>
        <label
          ><p-checkbox
            fMay="traffic"
            [binary]="true"
            [ngModel]="setUp.settings.automatic"
            (ngModelChange)="store.set({ automatic: $event })"
            size="small" />Import by itself</label
        >
      </div>
      <p class="quiet small">
        A file in the folder for a day that has a log is imported
        {{ setUp.settings.automatic ? 'by itself' : 'when you press Import' }}. A relative name is read from
        <span class="mono">{{ setUp.folder }}</span>.
      </p>
    }`,
  styles: `
    h3 {
      margin: 16px 0 6px;
      font-size: 14px;
    }
    p,
    ul {
      font-size: 14px;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
      font-size: 13px;
    }
    li {
      padding: 4px 0;
      border-top: 1px solid var(--line);
      overflow-wrap: anywhere;
    }
    .waiting {
      display: flex;
      gap: 8px;
      align-items: center;
      justify-content: space-between;
      margin-top: 8px;
      font-size: 13px;
      overflow-wrap: anywhere;
    }
    .form {
      display: grid;
      grid-template-columns: 76px minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      font-size: 14px;
    }
    .error-text {
      grid-column: 2;
    }
    .unit {
      display: grid;
      grid-template-columns: 56px auto;
      gap: 8px;
      align-items: center;
      justify-content: start;
    }
    .with-act {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px;
    }
    input:not([type='checkbox']) {
      width: 100%;
    }
    .small {
      margin-top: 10px;
      font-size: 13px;
      overflow-wrap: anywhere;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrafficPanel {
  protected readonly store = inject(BreaksStore);
  /** Which file the day was booked from, and when; empty without one. */
  readonly source = input('');
  protected readonly length = formatDuration;
  protected readonly proposed = PROPOSED;
  protected readonly faults = signal<{ readonly tolerance: string | null; readonly folder: string | null }>({
    tolerance: null,
    folder: null,
  });
  protected readonly spots = computed(() => plural(this.store.totals().spots, 'spot'));
  protected readonly layouts = computed(() => [
    { value: PROPOSED, label: 'Proposed from each file' },
    ...(this.store.setUp()?.layouts ?? []).map(({ id, name }) => ({ value: id, label: name })),
  ]);
  protected readonly chosen = computed(() => {
    const setUp = this.store.setUp();
    return setUp?.layouts.find(({ id }) => id === setUp.settings.layoutId) ?? null;
  });

  protected async setTolerance(text: string): Promise<void> {
    const minutes = Number(text.trim().replace(',', '.'));
    const isRight = text.trim() !== '' && minutes >= 0 && minutes <= 30;
    const why = isRight
      ? await this.store.set({ toleranceMs: Math.round(minutes * MINUTE_MS) })
      : 'Write minutes from 0 to 30.';
    this.faults.update((faults) => ({ ...faults, tolerance: why }));
  }

  protected async setFolder(text: string): Promise<void> {
    const why = await this.store.set({ folder: text.trim() || null });
    this.faults.update((faults) => ({ ...faults, folder: why }));
  }
}
