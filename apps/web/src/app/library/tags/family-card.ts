import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { SmallButton } from '../../shared/ui/small-button';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { CdkDrag, CdkDragHandle, CdkDropList, moveItemInArray, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { FamilyPatch, FamilyRow } from '@fuller/contracts';
import { elementAt, BAND_COLOURS, familyName } from '@fuller/core';
import { Select } from 'primeng/select';
import { Api } from '../../shared/api/api';
import { plural } from '../../shared/text/plural';
import { Icon } from '../../shared/ui/icon';
import { KeepOrCancel } from '../../shared/ui/keep-or-cancel';
import { Changes } from '../../state/changes';
import { May } from '../../shared/session/may';

type Value = FamilyRow['values'][number];
type Next = NonNullable<FamilyPatch['values']>[number];
const NOWHERE = '';

/** One tag family: renamed, its values ordered, coded, coloured, joined or taken off the items that have them. */
@Component({
  selector: 'f-family-card',
  imports: [
    May,
    SmallButton,
    ButtonDirective,
    InputText,
    Checkbox,
    CdkDropList,
    CdkDrag,
    CdkDragHandle,
    Select,
    FormsModule,
    RouterLink,
    Icon,
    KeepOrCancel,
  ],
  templateUrl: './family-card.html',
  styleUrl: './family-card.scss',
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
  private readonly next = computed<Next[]>(() =>
    this.family().values.map(({ value, code, colour }) => ({ value, code, colour, was: value })),
  );

  private async patch(
    patch: Omit<FamilyPatch, 'revision' | 'gone'> & { gone?: FamilyPatch['gone'] },
  ): Promise<boolean> {
    const { id, revision } = this.family();
    return (
      (await this.changes.run(
        this.api.patchFamily({ stationId: this.stationId(), id }, { revision, gone: {}, ...patch }),
      )) !== null
    );
  }

  /** Why a change was refused; null when it was made. */
  private attempt(patch: Omit<FamilyPatch, 'revision' | 'gone'>): Promise<string | null> {
    const { id, revision } = this.family();
    return this.changes.attempt(
      this.api.patchFamily({ stationId: this.stationId(), id }, { revision, gone: {}, ...patch }),
    );
  }

  protected readonly rename = (name: string): Promise<string | null> =>
    name === '' ? Promise.resolve('A family needs a name.') : this.attempt({ name });

  /** By place: what keeps the text and the code of a value. */
  protected readonly keepers = computed(() =>
    this.next().map((_, at) => ({
      value: (value: string) =>
        value === ''
          ? Promise.resolve('A value needs a text.')
          : this.attempt({ values: this.nextWith(at, { value }) }),
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
    const now = elementAt(this.next(), at).colour as (typeof turns)[number];
    const values = this.nextWith(at, { colour: elementAt(turns, (turns.indexOf(now) + 1) % turns.length) });
    void this.patch({ values });
  }

  protected move(from: number, to: number): void {
    const values = [...this.next()];
    moveItemInArray(values, from, to);
    void this.patch({ values });
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    if (previousIndex !== currentIndex) this.move(previousIndex, currentIndex);
  }

  protected async add(field: HTMLInputElement): Promise<void> {
    const value = field.value.trim();
    if (value && (await this.patch({ values: [...this.next(), { value, code: '', colour: null, was: null }] })))
      field.value = '';
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
    if (
      await this.changes.run(
        this.api.deleteFamily({ stationId: this.stationId(), id: this.family().id, offItems: 'yes' }),
      )
    )
      this.leaving.set(null);
  }

  protected filterOf({ value }: Value): string {
    return `${familyName(this.family().name)}:${/[\s,"]/.test(value) ? `"${value}"` : value}`;
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }
}
