import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import type { Change, PoolRow } from '@fuller/contracts';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { Popover } from 'primeng/popover';
import { SharingPanel } from '../shared/sharing/sharing-panel';
import { Icon } from '../shared/ui/icon';
import { NameForm } from '../shared/ui/name-form';
import { Changes } from '../state/changes';
import { May } from '../shared/session/may';

/** Fewer items than this are too few to draw from. */
const FEW = 5;

/** What can be done with the filter in hand: save it as a pool, change or delete the pool it came from. */
@Component({
  selector: 'f-pool-bar',
  imports: [May, SmallButton, Icon, NameForm, Popover, SharingPanel],
  template: `@if (fault(); as why) {
      <span class="error-text" role="alert">{{ why }}</span>
    } @else {
      @if (warning(); as words) {
        <span class="says" role="status">{{ words }}</span>
      }
      @if (naming()) {
        <f-name-form
          label="Name of the pool"
          placeholder="Name of the pool"
          does="Save"
          [value]="changing() ? pool()!.name : ''"
          [make]="keep"
          (cancelled)="naming.set(false)" />
      } @else {
        @if (pool(); as open) {
          @if (open.filter !== text()) {
            <button fMay="library" fButton (click)="change({ filter: text() })">
              Change “{{ open.name }}” to this
            </button>
          } @else {
            @if (several()) {
              <button fButton (click)="sharing.toggle($event)" aria-haspopup="dialog">
                <f-icon name="shared" />{{ open.scope === 'group' ? 'Shared' : 'Own' }}
              </button>
              <p-popover #sharing>
                <f-sharing
                  class="sharing"
                  [stationId]="stationId()"
                  kind="pool"
                  [id]="open.id"
                  right="library"
                  (became)="made.emit($event); sharing.hide()" />
              </p-popover>
            }
            <button fMay="library" fButton (click)="begin(true)">Rename</button>
            <button fMay="library" fButton (click)="remove(open)"><f-icon name="delete" />Delete pool</button>
          }
        }
        @if (!pool() || pool()!.filter !== text()) {
          <button fMay="library" fButton (click)="begin(false)"><f-icon name="plus" />Save as pool</button>
        }
      }
    }`,
  styles: `
    :host {
      display: contents;
    }
    .sharing {
      width: 320px;
    }
    /* On a line of their own below the filter. */
    .says,
    .error-text {
      order: 1;
      flex: 0 0 100%;
      font-size: 13.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PoolBar {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  readonly stationId = input.required<string>();
  readonly text = input.required<string>();
  /** The pool the filter came from. */
  readonly pool = input.required<PoolRow | null>();
  readonly fault = input.required<string | null>();
  /** Items found; null while that is not known. */
  readonly found = input.required<number | null>();
  /** A pool was made; its id. */
  readonly made = output<string>();
  readonly gone = output();

  private readonly stations = inject(Store).selectSignal(catalogueFeature.selectStations);
  /** With one station alone there is nobody to share with. */
  protected readonly several = computed(() => this.stations().length > 1);
  protected readonly naming = signal(false);
  protected readonly changing = signal(false);
  protected readonly warning = computed(() => {
    const found = this.found();
    if (found === null || found >= FEW) return null;
    return found === 0
      ? 'Nothing fits: a pool of this would leave its slots open.'
      : `Only ${plural(found, 'item')}: too few for a pool, they would repeat at once.`;
  });

  protected begin(change: boolean): void {
    this.changing.set(change);
    this.naming.set(true);
  }

  protected readonly keep = async (name: string): Promise<string | null> => {
    const sending: Promise<Change & { id?: string }> = this.changing()
      ? this.patch({ name })
      : this.api.createPool({ stationId: this.stationId() }, { name, filter: this.text() });
    const answer = await this.changes.made(sending);
    if (typeof answer === 'string') return answer;
    this.naming.set(false);
    if (answer.id !== undefined) this.made.emit(answer.id);
    return null;
  };

  private patch(patch: { name?: string; filter?: string }): Promise<Change> {
    const { id, revision } = this.pool()!;
    return this.api.patchPool({ stationId: this.stationId(), id }, { revision, ...patch });
  }

  protected async change(patch: { filter: string }): Promise<void> {
    await this.changes.run(this.patch(patch));
  }

  protected async remove({ id }: PoolRow): Promise<void> {
    if (await this.changes.run(this.api.deletePool({ stationId: this.stationId(), id }))) this.gone.emit();
  }
}
