import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ROLES, type Role, type RoleAt } from '@fuller/contracts';
import { MultiSelect } from 'primeng/multiselect';
import { TableModule } from 'primeng/table';
import { ButtonDirective } from 'primeng/button';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { Choice } from '../shared/ui/choice';
import { EmptyState } from '../shared/ui/empty-state';
import { FocusFirst } from '../shared/ui/focus-first';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { PeopleStore, withRole } from './people.store';
import { PeopleTabs } from './people-tabs';
import { ROLE_WORDS, rolesWords } from './role-words';
import { SessionList } from './session-list';
import { Session } from '../shared/session/session.store';
import { whenWords } from './session-words';
import { SignInField } from './sign-in-field';
import { May } from '../shared/session/may';

const NONE = 'none';

/** Everybody with an account: what they may do where, and where they are signed in. */
@Component({
  selector: 'f-people-page',
  imports: [
    May,
    ButtonDirective,
    Choice,
    EmptyState,
    FocusFirst,
    FormsModule,
    Icon,
    InlineEdit,
    Inspector,
    MultiSelect,
    PeopleTabs,
    SessionList,
    SignInField,
    SmallButton,
    KeptRows,
    TableModule,
  ],
  providers: [PeopleStore],
  templateUrl: './people-page.html',
  styleUrl: './people-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeoplePage {
  protected readonly store = inject(PeopleStore);
  protected readonly session = inject(Session);
  readonly stationId = input.required<string>();

  protected readonly adding = signal(false);
  protected readonly name = signal('');
  protected readonly password = signal('');
  protected readonly role = signal<Role>('viewer');
  protected readonly refused = signal<string | null>(null);
  protected readonly resetting = signal(false);
  /** Why what was asked in the inspector was refused. */
  protected readonly problem = signal<string | null>(null);

  protected readonly when = whenWords;
  protected readonly roleOptions = ROLES.map((role) => ({ value: role, label: ROLE_WORDS[role].word }));
  protected readonly everywhereOptions = [{ value: NONE, label: 'None' }, ...this.roleOptions];
  protected readonly stationOptions = computed(() => {
    const everywhere = this.store.chosen()?.roles.find(({ stationId }) => stationId === null);
    const label = everywhere ? `As everywhere: ${ROLE_WORDS[everywhere.role].word}` : 'None';
    return [{ value: NONE, label }, ...this.roleOptions];
  });
  protected readonly rows = computed(() =>
    (this.store.people() ?? []).map((person) => ({
      person,
      roles: rolesWords(person.roles, this.store.stationName()),
    })),
  );

  constructor() {
    inject(KeysHelp).place.set({ name: 'People', keys: [] });
    void this.store.load();
    reloadOn(['people'], () => this.store.load(), { burstMs: 200 });
    effect(() => {
      const roles = this.store.chosen()?.roles ?? [];
      untracked(() => {
        for (const { stationId, role } of roles)
          if (stationId !== null && role === 'presenter') void this.store.readShows(stationId);
      });
    });
  }

  protected choose(id: string): void {
    this.problem.set(null);
    this.resetting.set(false);
    void this.store.choose(id);
  }

  protected roleOf(stationId: string | null): RoleAt | null {
    return this.store.chosen()?.roles.find((one) => one.stationId === stationId) ?? null;
  }

  protected async setRole(stationId: string | null, value: string): Promise<void> {
    const person = this.store.chosen();
    if (!person) return;
    const roles = withRole(person.roles, stationId, value === NONE ? null : (value as Role));
    if (roles.length === 0) return this.problem.set('An account needs a role; remove it instead.');
    this.problem.set(await this.store.patch(person, { roles }));
  }

  protected async setShows(stationId: string, showIds: string[]): Promise<void> {
    const person = this.store.chosen();
    if (!person) return;
    const roles = person.roles.map((one) => (one.stationId === stationId ? { ...one, showIds } : one));
    this.problem.set(await this.store.patch(person, { roles }));
  }

  protected readonly rename = (name: string): Promise<string | null> => {
    const person = this.store.chosen();
    return person ? this.store.patch(person, { name }) : Promise.resolve(null);
  };
  protected readonly nameFault = (name: string): string | null => (name === '' ? 'It needs a name.' : null);

  protected async add(event: Event): Promise<void> {
    event.preventDefault();
    if (this.name().trim() === '') return this.refused.set('Type a name.');
    this.refused.set(await this.store.add(this.name().trim(), this.password(), this.role()));
    if (this.refused() === null) this.stopAdding();
  }

  protected stopAdding(): void {
    this.adding.set(false);
    this.name.set('');
    this.password.set('');
    this.refused.set(null);
  }

  protected async reset(event: Event): Promise<void> {
    event.preventDefault();
    const person = this.store.chosen();
    if (!person) return;
    this.problem.set(await this.store.resetPassword(person, this.password()));
    if (this.problem() !== null) return;
    this.password.set('');
    this.resetting.set(false);
  }

  protected async endSessions(): Promise<void> {
    const person = this.store.chosen();
    if (person) this.problem.set(await this.store.endSessions(person));
  }

  protected async remove(): Promise<void> {
    const person = this.store.chosen();
    if (person) this.problem.set(await this.store.remove(person));
  }
}
