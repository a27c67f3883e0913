import { ChangeDetectionStrategy, Component, computed, effect, type ElementRef, inject, input, output, signal, viewChild } from '@angular/core';
import type { PoolRow } from '@fuller/contracts';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { Icon } from '../shared/ui/icon';
import { Changes } from '../state/changes';

/** Fewer items than this are too few to draw from. */
const FEW = 5;

/** What can be done with the filter in hand: save it as a pool, change or delete the pool it came from. */
@Component({
  selector: 'f-pool-bar',
  imports: [Icon],
  template: `@if (fault(); as why) {
      <span class="error-text" role="alert">{{ why }}</span>
    } @else {
      @if (warning(); as words) {
        <span class="says" role="status">{{ words }}</span>
      }
      @if (naming()) {
        <input
          #name
          class="field name"
          aria-label="Name of the pool"
          placeholder="Name of the pool"
          maxlength="80"
          [value]="changing() ? pool()!.name : ''"
          (keydown.enter)="keep(name.value)"
          (keydown.escape)="naming.set(false)" />
        <button type="button" class="act strong" (click)="keep(name.value)">Save</button>
        <button type="button" class="act" (click)="naming.set(false)">Cancel</button>
      } @else {
        @if (pool(); as open) {
          @if (open.filter !== text()) {
            <button type="button" class="act" (click)="change({ filter: text() })">Change “{{ open.name }}” to this</button>
          } @else {
            <button type="button" class="act" (click)="begin(true)">Rename</button>
            <button type="button" class="act" (click)="remove(open)"><f-icon name="delete" />Delete pool</button>
          }
        }
        @if (!pool() || pool()!.filter !== text()) {
          <button type="button" class="act" (click)="begin(false)"><f-icon name="plus" />Save as pool</button>
        }
      }
    }`,
  styles: `
    :host {
      display: contents;
    }
    /* On a line of their own below the filter. */
    .says,
    .error-text {
      order: 1;
      flex: 0 0 100%;
      font-size: 13.5px;
    }
    .name {
      width: 170px;
      font-size: 14px;
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

  private readonly name = viewChild<ElementRef<HTMLInputElement>>('name');
  protected readonly naming = signal(false);
  protected readonly changing = signal(false);
  protected readonly warning = computed(() => {
    const found = this.found();
    if (found === null || found >= FEW) return null;
    return found === 0
      ? 'Nothing fits: a pool of this would leave its slots open.'
      : `Only ${plural(found, 'item')}: a pool of this would come round at once.`;
  });

  constructor() {
    effect(() => this.name()?.nativeElement.select());
  }

  protected begin(change: boolean): void {
    this.changing.set(change);
    this.naming.set(true);
  }

  protected async keep(name: string): Promise<void> {
    if (this.changing()) {
      if (await this.change({ name })) this.naming.set(false);
      return;
    }
    const answer = await this.changes.run(this.api.createPool(this.stationId(), { name, filter: this.text() }));
    if (!answer) return;
    this.naming.set(false);
    this.made.emit(answer.id);
  }

  protected async change(patch: { name?: string; filter?: string }): Promise<boolean> {
    const { id, revision } = this.pool()!;
    return (await this.changes.run(this.api.patchPool(this.stationId(), id, { revision, ...patch }))) !== null;
  }

  protected async remove({ id }: PoolRow): Promise<void> {
    if (await this.changes.run(this.api.deletePool(this.stationId(), id))) this.gone.emit();
  }
}
