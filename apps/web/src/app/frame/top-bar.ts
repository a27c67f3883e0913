import { ChangeDetectionStrategy, Component, computed, inject, input, viewChild } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { Looks } from '../shared/looks';
import { Icon } from '../shared/ui/icon';
import { catalogueFeature } from '../state/catalogue.feature';
import { undoActions, undoFeature } from '../state/undo.feature';
import { AccountMenu } from '../people/account-menu';
import { ActivityMenu } from './activity-menu';
import { helpPageOf } from '../help/help-pages';
import { FortnightStrip } from './fortnight-strip';
import { JobsMenu } from './jobs-menu';
import { KeysHelp } from './keys-help';
import { SearchBox } from './search-box';
import { May } from '../shared/session/may';

@Component({
  selector: 'f-top-bar',
  imports: [
    May,
    SmallButton,
    Select,
    FormsModule,
    FortnightStrip,
    SearchBox,
    ActivityMenu,
    JobsMenu,
    Icon,
    AccountMenu,
  ],
  template: `<p-select
      class="station"
      [options]="options()"
      [ngModel]="stationId()"
      (ngModelChange)="switchTo($event)"
      optionLabel="name"
      optionValue="id"
      ariaLabel="Station"
      appendTo="body" />
    <f-fortnight-strip [stationId]="stationId()" [chosen]="date()" />
    <span class="gap"></span>
    <f-search-box />
    <div class="tools">
      <button
        fMay="undo"
        fButton="text"
        class="act"
        [disabled]="!lastDone()"
        (click)="undo()"
        [attr.aria-label]="lastDone() ? 'Undo: ' + lastDone()!.label : 'Nothing to undo'"
        [title]="lastDone() ? 'Undo: ' + lastDone()!.label + ' (Ctrl Z)' : 'Nothing to undo'">
        <f-icon name="undo" [size]="18" />
      </button>
      <button
        fMay="undo"
        fButton="text"
        class="act"
        [disabled]="!lastUndone()"
        (click)="redo()"
        [attr.aria-label]="lastUndone() ? 'Redo: ' + lastUndone()!.label : 'Nothing to redo'"
        [title]="lastUndone() ? 'Redo: ' + lastUndone()!.label + ' (Ctrl Shift Z)' : 'Nothing to redo'">
        <f-icon name="redo" [size]="18" />
      </button>
      <f-activity-menu [stationId]="stationId()" />
      <f-jobs-menu />
      <button
        fButton="text"
        class="act"
        (click)="looks.turnDensity()"
        [attr.aria-label]="looks.density() === 'dense' ? 'Comfortable rows' : 'Dense rows'"
        [title]="looks.density() === 'dense' ? 'Comfortable rows' : 'Dense rows'">
        <f-icon [name]="looks.density() === 'dense' ? 'comfortable' : 'dense'" [size]="18" />
      </button>
      <button
        fButton="text"
        class="act"
        (click)="looks.turnTheme()"
        [attr.aria-label]="looks.theme() === 'dark' ? 'Light' : 'Dark'"
        [title]="looks.theme() === 'dark' ? 'Light' : 'Dark'">
        <f-icon [name]="looks.theme() === 'dark' ? 'sun' : 'moon'" [size]="18" />
      </button>
      <button fButton="text" class="act" (click)="help()" aria-label="Help" title="Help (F1)">
        <f-icon name="help" [size]="18" />
      </button>
      <button fButton="text" class="act" (click)="keys.open.set(true)" aria-label="Keys" title="Keys (?)">
        <f-icon name="keys" [size]="18" />
      </button>
      <f-account-menu [stationId]="stationId()" />
    </div>`,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 10px;
      min-width: 0;
      height: 60px;
      padding: 0 8px 0 14px;
      border-bottom: 1px solid var(--line);
      background: var(--chalk);
    }
    .gap {
      flex: 1;
    }
    .station {
      width: 168px;
      flex: none;
    }
    .station ::ng-deep .p-select-label {
      padding: 5px 10px;
      font-weight: 600;
      font-size: 14px;
    }
    .tools {
      display: flex;
      flex: none;
    }
    .tools .act {
      padding: 0 5px;
    }
    f-search-box {
      flex: 0 1 150px;
      min-width: 120px;
    }
    f-fortnight-strip {
      display: block;
      flex: 0 1 auto;
      min-width: 0;
      overflow-x: auto;
      scrollbar-width: thin;
    }
    @media (max-width: 1100px) {
      .station {
        width: 130px;
      }
      f-search-box {
        flex-basis: 130px;
        min-width: 110px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TopBar {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly looks = inject(Looks);
  protected readonly keys = inject(KeysHelp);
  readonly stationId = input.required<string>();
  readonly date = input<string | null>(null);
  readonly search = viewChild.required(SearchBox);

  protected readonly stations = this.store.selectSignal(catalogueFeature.selectStations);
  /** Archived ones are gone from the switch, except the one that is looked at. */
  protected readonly options = computed(() =>
    this.stations().filter(({ id, archived }) => !archived || id === this.stationId()),
  );
  private readonly undoState = this.store.selectSignal(undoFeature.selectUndoState);
  protected readonly lastDone = computed(() => this.undoState().done.at(-1) ?? null);
  protected readonly lastUndone = computed(() => this.undoState().undone.at(-1) ?? null);

  /** Opens a station at the place one is in. */
  switchTo(stationId: string): void {
    const place = this.router.url.split(/[/?]/)[2] ?? 'library';
    void this.router.navigate(['/', stationId, place]);
  }

  nextStation(): void {
    const stations = this.options();
    const at = stations.findIndex((station) => station.id === this.stationId());
    const next = stations[(at + 1) % stations.length];
    if (next && next.id !== this.stationId()) this.switchTo(next.id);
  }

  /** Opens the guide at the page of the place one is in. */
  help(): void {
    void this.router.navigate(['/', this.stationId(), 'help', helpPageOf(this.router.url)]);
  }

  undo(): void {
    this.store.dispatch(undoActions.undo());
  }

  redo(): void {
    this.store.dispatch(undoActions.redo());
  }
}
