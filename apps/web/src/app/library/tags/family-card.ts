import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { CdkDrag, CdkDragHandle, CdkDropList, moveItemInArray, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { FamilyPatch, FamilyRow } from '@fuller/contracts';
import { BAND_COLOURS, familyName } from '@fuller/core';
import { Select } from 'primeng/select';
import { Api } from '../../shared/api/api';
import { plural } from '../../shared/text/plural';
import { Icon } from '../../shared/ui/icon';
import { KeepOrCancel } from '../../shared/ui/keep-or-cancel';
import { Changes } from '../../state/changes';

type Value = FamilyRow['values'][number];
type Next = NonNullable<FamilyPatch['values']>[number];
const NOWHERE = '';

/** One tag family: renamed, its values ordered, coded, coloured, joined or taken off the items that have them. */
@Component({
  selector: 'f-family-card',
  imports: [ButtonDirective, InputText, Checkbox, CdkDropList, CdkDrag, CdkDragHandle, Select, FormsModule, RouterLink, Icon, KeepOrCancel],
  template: `@let it = family();
    <header>
      <input
        pInputText
        pSize="small"
        #name="kept"
        [fKeepOrCancel]="rename"
        class="name"
        [value]="it.name"
        [attr.aria-label]="'Name of the family ' + it.name"
        maxlength="60" />
      <label class="check"><p-checkbox [binary]="true" [ngModel]="single()" (ngModelChange)="setSingle($event)" />one value an item</label>
      <button
        pButton
        size="small"
        text
        severity="secondary"
        type="button"
        class="act"
        [attr.aria-label]="'Delete the family ' + it.name"
        (click)="leaving.set(leaving() === it.id ? null : it.id)">
        <f-icon name="delete" />
      </button>
    </header>
    @if (name.refused(); as why) {
      <p class="error-text" role="alert">{{ why }}</p>
    }
    @if (leaving() === it.id) {
      <div class="ask" role="alertdialog" aria-label="Delete this family">
        <p>{{ inUse() > 0 ? items(inUse()) + ' would lose their value in this family.' : 'No item has a value of it.' }}</p>
        <button pButton size="small" severity="danger" type="button" class="act" (click)="remove()">Delete</button>
        <button pButton size="small" severity="secondary" type="button" class="act" (click)="leaving.set(null)">Cancel</button>
      </div>
    }
    <ul cdkDropList (cdkDropListDropped)="drop($event)" [attr.aria-label]="'Values of ' + it.name">
      @for (value of it.values; track value.value; let at = $index; let last = $last) {
        <li cdkDrag>
          <span cdkDragHandle class="grip" aria-hidden="true"><f-icon name="grip" [size]="14" /></span>
          <button
            pButton
            [pButtonUnstyled]="true"
            type="button"
            class="dot"
            [style.background]="value.colour ?? 'transparent'"
            [attr.aria-label]="'Colour of ' + value.value"
            title="Next colour"
            (click)="recolour(at)"></button>
          <input
            pInputText
            pSize="small"
            #text="kept"
            [fKeepOrCancel]="keepers()[at]!.value"
            class="value"
            [value]="value.value"
            [attr.aria-label]="'Value ' + value.value"
            maxlength="60" />
          <input
            pInputText
            pSize="small"
            #code="kept"
            [fKeepOrCancel]="keepers()[at]!.code"
            class="code mono"
            [value]="value.code"
            placeholder="code"
            [attr.aria-label]="'Code of ' + value.value"
            maxlength="4" />
          <a class="count" [routerLink]="['..']" [queryParams]="{ q: filterOf(value) }"
            >{{ value.items.toLocaleString('en-GB')
            }}<span class="visually-hidden"> {{ value.items === 1 ? 'item' : 'items' }} with {{ value.value }}</span></a
          >
          <button
            pButton
            size="small"
            text
            severity="secondary"
            type="button"
            class="act"
            [disabled]="at === 0"
            [attr.aria-label]="'Move ' + value.value + ' up'"
            (click)="move(at, at - 1)">
            ↑
          </button>
          <button
            pButton
            size="small"
            text
            severity="secondary"
            type="button"
            class="act"
            [disabled]="last"
            [attr.aria-label]="'Move ' + value.value + ' down'"
            (click)="move(at, at + 1)">
            ↓
          </button>
          <button
            pButton
            size="small"
            text
            severity="secondary"
            type="button"
            class="act"
            [attr.aria-label]="'Delete ' + value.value"
            (click)="take(value)">
            <f-icon name="close" [size]="14" />
          </button>
          @if (text.refused() ?? code.refused(); as why) {
            <p class="error-text" role="alert">{{ why }}</p>
          }
          @if (leaving() === 'value ' + value.value) {
            <div class="ask" role="alertdialog" [attr.aria-label]="'Delete ' + value.value">
              <p>{{ value.value }} is on {{ items(value.items) }}. In its place:</p>
              <p-select
                [options]="heirs()"
                optionLabel="label"
                optionValue="value"
                [ngModel]="heir()"
                (ngModelChange)="heir.set($event)"
                ariaLabel="In its place"
                appendTo="body" />
              <button pButton size="small" severity="danger" type="button" class="act" (click)="takeAway(value)">Delete</button>
              <button pButton size="small" severity="secondary" type="button" class="act" (click)="leaving.set(null)">Cancel</button>
            </div>
          }
        </li>
      } @empty {
        <li class="quiet none">No values yet.</li>
      }
    </ul>
    <form (submit)="$event.preventDefault(); add(more)">
      <input pInputText pSize="small" #more class="field" [attr.aria-label]="'New value of ' + it.name" placeholder="New value" maxlength="60" />
      <button pButton size="small" severity="secondary" type="submit" class="act" [attr.aria-label]="'Add a value to ' + it.name">
        <f-icon name="plus" />Add
      </button>
    </form>`,
  styles: `
    :host {
      display: block;
      background: var(--paper);
      border: 1px solid var(--line);
      border-radius: 4px;
      padding: 10px 12px 12px;
    }
    header {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .check {
      font-size: 13px;
      display: flex;
      gap: 5px;
      align-items: center;
      white-space: nowrap;
    }
    ul {
      list-style: none;
      margin: 6px 0 8px;
      padding: 0;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px;
      border-top: 1px solid var(--line);
      min-height: 32px;
      background: var(--paper);
    }
    .none {
      padding: 6px 0;
      font-size: 14px;
    }
    .grip {
      cursor: grab;
      color: var(--quiet);
    }
    .dot {
      width: 16px;
      height: 16px;
      border: 1px solid var(--line-strong);
      border-radius: 50%;
      padding: 0;
      cursor: pointer;
    }
    .name,
    .value,
    .code {
      border: 1px solid transparent;
      border-radius: 3px;
      background: none;
      height: 28px;
      padding: 0 6px;
      min-width: 0;
      font-size: 14px;
    }
    .name {
      font-weight: 600;
      font-size: 16px;
      flex: 1;
      margin-left: -6px;
    }
    .value {
      flex: 1;
    }
    .code {
      width: 56px;
    }
    .code::placeholder {
      color: transparent;
    }
    li:hover .code::placeholder,
    .code:focus::placeholder {
      color: var(--quiet);
      opacity: 1;
    }
    .name:hover,
    .value:hover,
    .code:hover {
      border-color: var(--line-strong);
    }
    .count {
      width: 42px;
      text-align: right;
      font-size: 13px;
      color: var(--quiet);
    }
    .act.bare {
      height: 26px;
      padding: 0 5px;
    }
    form {
      display: flex;
      gap: 6px;
    }
    form .field {
      flex: 1;
    }
    .ask {
      flex: 1 0 100%;
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      padding: 8px 10px;
      margin: 4px 0 8px;
      background: var(--madder-wash);
      border-radius: 4px;
      font-size: 14px;
    }
    .ask p {
      flex: 1 0 100%;
    }
    .cdk-drag-placeholder {
      opacity: 0.3;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FamilyCard {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  readonly stationId = input.required<string>();
  readonly family = input.required<FamilyRow>();

  /** What is asked about: the family's id, or one of its values. */
  protected readonly leaving = signal<string | null>(null);
  protected readonly heir = signal(NOWHERE);
  /** What may take the place of the value that is asked about. */
  protected readonly heirs = computed(() => [
    { value: NOWHERE, label: 'nothing: take it off them' },
    ...this.family()
      .values.filter(({ value }) => `value ${value}` !== this.leaving())
      .map(({ value }) => ({ value, label: value })),
  ]);
  protected readonly inUse = computed(() => this.family().values.reduce((sum, { items }) => sum + items, 0));
  private readonly next = computed<Next[]>(() => this.family().values.map(({ value, code, colour }) => ({ value, code, colour, was: value })));

  private async patch(patch: Omit<FamilyPatch, 'revision' | 'gone'> & { gone?: FamilyPatch['gone'] }): Promise<boolean> {
    const { id, revision } = this.family();
    return (await this.changes.run(this.api.patchFamily({ stationId: this.stationId(), id }, { revision, gone: {}, ...patch }))) !== null;
  }

  /** Why a change was refused; null when it was made. */
  private attempt(patch: Omit<FamilyPatch, 'revision' | 'gone'>): Promise<string | null> {
    const { id, revision } = this.family();
    return this.changes.attempt(this.api.patchFamily({ stationId: this.stationId(), id }, { revision, gone: {}, ...patch }));
  }

  protected readonly rename = (name: string): Promise<string | null> =>
    name === '' ? Promise.resolve('A family needs a name.') : this.attempt({ name });

  /** By place: what keeps the text and the code of a value. */
  protected readonly keepers = computed(() =>
    this.next().map((_, at) => ({
      value: (value: string) => (value === '' ? Promise.resolve('A value needs a text.') : this.attempt({ values: this.nextWith(at, { value }) })),
      code: (code: string) => this.attempt({ values: this.nextWith(at, { code }) }),
    })),
  );

  private nextWith(at: number, change: Partial<Next>): Next[] {
    return this.next().map((one, index) => (index === at ? { ...one, ...change } : one));
  }

  /** As the box shows it; what is refused goes back. */
  protected readonly single = linkedSignal(() => this.family().single);

  protected async setSingle(single: boolean): Promise<void> {
    this.single.set(single);
    if (!(await this.patch({ single }))) this.single.set(this.family().single);
  }

  protected recolour(at: number): void {
    const turns = [null, ...BAND_COLOURS];
    const now = this.next()[at]!.colour as (typeof turns)[number];
    const values = this.nextWith(at, { colour: turns[(turns.indexOf(now) + 1) % turns.length]! });
    void this.patch({ values });
  }

  protected move(from: number, to: number): void {
    const values = this.next();
    moveItemInArray(values, from, to);
    void this.patch({ values: [...values] });
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    if (previousIndex !== currentIndex) this.move(previousIndex, currentIndex);
  }

  protected async add(field: HTMLInputElement): Promise<void> {
    const value = field.value.trim();
    if (value && (await this.patch({ values: [...this.next(), { value, code: '', colour: null, was: null }] }))) field.value = '';
  }

  /** A value that no item has goes at once; of others it is asked what takes their place. */
  protected take(value: Value): void {
    if (value.items === 0) return void this.takeAway(value);
    this.heir.set(NOWHERE);
    this.leaving.set(`value ${value.value}`);
  }

  protected async takeAway({ value, items }: Value): Promise<void> {
    const gone: Record<string, string | null> = items > 0 ? { [value]: this.heir() || null } : {};
    if (await this.patch({ values: this.next().filter((one) => one.was !== value), gone })) this.leaving.set(null);
  }

  protected async remove(): Promise<void> {
    if (await this.changes.run(this.api.deleteFamily({ stationId: this.stationId(), id: this.family().id, offItems: 'yes' }))) this.leaving.set(null);
  }

  protected filterOf({ value }: Value): string {
    return `${familyName(this.family().name)}:${/[\s,"]/.test(value) ? `"${value}"` : value}`;
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }
}
