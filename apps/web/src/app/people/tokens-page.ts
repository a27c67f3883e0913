import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RIGHTS, type Right, type TokenRow } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { MultiSelect } from 'primeng/multiselect';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { reloadOn } from '../shared/api/reload-on';
import { Notices } from '../shared/notices';
import { Choice } from '../shared/ui/choice';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { PeopleTabs } from './people-tabs';
import { whenWords } from './session-words';
import { SignInField } from './sign-in-field';
import { May } from '../shared/session/may';

/** What a token may be given, as people call it; accounts and the folder as a whole are given for every station alone. */
const RIGHT_WORDS: Partial<Record<Right, string>> = {
  look: 'Read everything',
  library: 'Change the library',
  rotation: 'Change categories',
  clocks: 'Change clocks and the week',
  rules: 'Change rules',
  logs: 'Generate and edit logs',
  'hand-over': 'Hand over',
  traffic: 'Import and place spots',
  undo: 'Undo',
  care: 'Back up and restore',
};
const LASTS = [
  { value: '30', label: '30 days' },
  { value: '365', label: 'A year' },
  { value: 'never', label: 'Until it is removed' },
];

/** Tokens of other programs: what they may do, where, and when they were last used. */
@Component({
  selector: 'f-tokens-page',
  imports: [
    May,
    Choice,
    EmptyState,
    FormsModule,
    Icon,
    MultiSelect,
    PeopleTabs,
    SignInField,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  templateUrl: './tokens-page.html',
  styleUrl: './people-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TokensPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly stations = inject(Store).selectSignal(catalogueFeature.selectStations);
  readonly stationId = input.required<string>();

  protected readonly tokens = signal<readonly TokenRow[] | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly adding = signal(false);
  protected readonly name = signal('');
  protected readonly rights = signal<Right[]>([]);
  protected readonly stationIds = signal<string[]>([]);
  protected readonly lasts = signal('365');
  protected readonly refused = signal<string | null>(null);
  /** A token that was just made: it is shown once. */
  protected readonly made = signal<{ name: string; token: string } | null>(null);

  protected readonly when = whenWords;
  protected readonly lastsOptions = LASTS;
  protected readonly stationOptions = computed(() => [...this.stations()]);
  protected readonly rightOptions = RIGHTS.flatMap((right) => {
    const label = RIGHT_WORDS[right];
    return label === undefined ? [] : [{ value: right, label }];
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Other programs', keys: [] });
    void this.load();
    reloadOn(['people'], () => this.load(), { burstMs: 200 });
  }

  private async load(): Promise<void> {
    try {
      this.tokens.set(await this.api.tokens());
      this.problem.set(null);
    } catch (error) {
      this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected rightsWords({ rights }: TokenRow): string {
    return rights.map((right) => RIGHT_WORDS[right] ?? right).join(', ');
  }

  protected stationsWords({ stationIds }: TokenRow): string {
    if (stationIds === null) return 'Every station';
    const names = new Map(this.stations().map(({ id, name }) => [id, name]));
    return stationIds.map((id) => names.get(id) ?? 'a station that is gone').join(', ');
  }

  protected async add(event: Event): Promise<void> {
    event.preventDefault();
    const name = this.name().trim();
    if (name === '') return this.refused.set('Type a name.');
    if (this.rights().length === 0) return this.refused.set('Choose what the program may do.');
    const stationIds = this.stationIds().length === 0 ? null : this.stationIds();
    const days = this.lasts() === 'never' ? null : Number(this.lasts());
    try {
      const { token } = await this.api.createToken({}, { name, rights: this.rights(), stationIds, days });
      this.made.set({ name, token });
      this.stopAdding();
      await this.load();
    } catch (error) {
      this.refused.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected stopAdding(): void {
    this.adding.set(false);
    this.name.set('');
    this.refused.set(null);
  }

  protected async copy(token: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(token);
      this.notices.say('Copied');
    } catch {
      this.notices.fail('The browser does not let Fuller copy; select the token and copy it.');
    }
  }

  protected async remove({ id, name }: TokenRow): Promise<void> {
    try {
      await this.api.removeToken({ id });
      this.notices.say(`Removed the token ${name}; it is refused from now on.`);
    } catch (error) {
      this.notices.fail(error instanceof Error ? error.message : String(error));
    }
    await this.load();
  }
}
