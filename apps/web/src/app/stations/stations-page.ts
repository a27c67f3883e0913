import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { Station } from '@fuller/contracts';
import { nameKey } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { May } from '../shared/session/may';
import { Choice } from '../shared/ui/choice';
import { FocusFirst } from '../shared/ui/focus-first';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { StationsStore, type Beginning } from './stations.store';

/** The stations of the group: made, like another one where wished, renamed, archived. */
@Component({
  selector: 'f-stations-page',
  imports: [
    ButtonDirective,
    Choice,
    FocusFirst,
    FormsModule,
    Icon,
    InlineEdit,
    InputText,
    Inspector,
    May,
    RouterLink,
    Select,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  providers: [StationsStore],
  templateUrl: './stations-page.html',
  styleUrl: './stations-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StationsPage {
  protected readonly store = inject(StationsStore);
  readonly stationId = input.required<string>();

  protected readonly adding = signal(false);
  protected readonly name = signal('');
  /** That of the open station until another is chosen. */
  protected readonly timeZone = linkedSignal(
    () => this.store.stations().find(({ id }) => id === this.stationId())?.timeZone ?? 'UTC',
  );
  protected readonly like = signal<Beginning>('empty');
  protected readonly refused = signal<string | null>(null);
  protected readonly busy = signal(false);

  protected readonly zones = [...new Set(['UTC', ...Intl.supportedValuesOf('timeZone')])].map((zone) => ({
    value: zone,
    label: zone,
  }));
  protected readonly beginnings = computed(() => [
    { value: 'empty', label: 'Empty' },
    ...this.store.stations().flatMap(({ id, name }) => [
      { value: `everything:${id}`, label: `Everything of ${name}` },
      { value: `clocks and rules:${id}`, label: `Clocks and rules of ${name}` },
    ]),
  ]);
  protected readonly beginningWords = computed(() => {
    if (this.like() === 'empty') return 'It has the shared library and everything that is shared.';
    return this.like().startsWith('everything')
      ? 'Categories with their songs, clocks, week, shows, rules, sponsors and limits. Logs and plays, outputs, traffic folders and players are not copied.'
      : 'Clocks, week, shows, dates, dayparts and rules, and the categories they draw from without songs.';
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Stations', keys: [] });
  }

  protected readonly nameFault = (name: string): string | null => {
    if (name.trim() === '') return 'A station needs a name.';
    const taken = this.store
      .stations()
      .some((one) => one.id !== this.store.chosenId() && nameKey(one.name) === nameKey(name));
    return taken ? 'Another station has this name.' : null;
  };
  protected readonly rename = (name: string): Promise<string | null> => this.change({ name });
  protected readonly saveFrequency = (frequency: string): Promise<string | null> => this.change({ frequency });

  protected async change(patch: Parameters<StationsStore['change']>[1]): Promise<string | null> {
    const station = this.store.chosen();
    if (!station) return null;
    this.refused.set(null);
    const refused = await this.store.change(station, patch);
    if (patch.name === undefined && patch.frequency === undefined) this.refused.set(refused);
    return refused;
  }

  protected archive(station: Station, archived: boolean): void {
    this.store.choose(station.id);
    void this.change({ archived });
  }

  protected async add(event: Event): Promise<void> {
    event.preventDefault();
    if (this.busy()) return;
    const name = this.name().trim();
    if (name === '') return this.refused.set('A station needs a name.');
    this.busy.set(true);
    this.refused.set(await this.store.make({ name, timeZone: this.timeZone() }, this.like()));
    this.busy.set(false);
    if (this.refused() === null) this.stopAdding();
  }

  protected stopAdding(): void {
    this.adding.set(false);
    this.name.set('');
    this.like.set('empty');
    this.refused.set(null);
  }
}
type StationsStore = InstanceType<typeof StationsStore>;
