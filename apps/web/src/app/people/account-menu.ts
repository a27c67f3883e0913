import { ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { SessionRow } from '@fuller/contracts';
import { Popover } from 'primeng/popover';
import { Api } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { ROLE_WORDS } from './role-words';
import { Session } from '../shared/session/session.store';
import { SessionList } from './session-list';
import { SignInField } from './sign-in-field';

/** Who works here, where else they are signed in, and the places of whoever looks after Fuller. */
@Component({
  selector: 'f-account-menu',
  imports: [Icon, Popover, RouterLink, SessionList, SignInField, SmallButton],
  template: `<button
      fButton="text"
      class="act"
      (click)="open($event)"
      [attr.aria-label]="'Account: ' + who()"
      [title]="who()">
      <f-icon name="person" [size]="18" />
    </button>
    <p-popover #list (onHide)="closed()">
      <div class="account">
        <h2>{{ who() }}</h2>
        @if (session.person()) {
          <p class="quiet">{{ role() }}</p>
          @if (changing()) {
            <form (submit)="save($event)">
              <f-sign-in-field label="Present password" [(value)]="old" [why]="why('old')" />
              <f-sign-in-field
                label="New password"
                complete="new-password"
                hint="At least ten characters"
                [(value)]="password"
                [why]="why('password')" />
              <div class="acts">
                <button fButton="primary" type="submit">Save</button>
                <button fButton="text" (click)="changing.set(false)">Cancel</button>
              </div>
            </form>
          } @else {
            <div class="acts">
              <button fButton (click)="changing.set(true)">Change password</button>
              <button fButton (click)="signOut()">Sign out</button>
            </div>
            <h3>Signed in at</h3>
            <f-session-list [sessions]="sessions()" (end)="end($event)" />
            @if (sessions().length > 1) {
              <button fButton (click)="endOthers()">Sign out everywhere else</button>
            }
          }
        } @else {
          <p class="quiet">Whoever uses this computer can change everything. Fuller answers no other computer.</p>
        }
        <nav aria-label="Looking after Fuller">
          <a [routerLink]="['/', stationId(), 'activity']" (click)="list.hide()">Activity</a>
          @if (session.may('care', stationId())) {
            <a [routerLink]="['/', stationId(), 'backups']" (click)="list.hide()">Backups</a>
          }
          @if (session.may('stations', stationId())) {
            <a [routerLink]="['/', stationId(), 'stations']" (click)="list.hide()">Stations</a>
          }
          @if (session.may('people', stationId())) {
            <a [routerLink]="['/', stationId(), 'people']" (click)="list.hide()">People and tokens</a>
          }
        </nav>
      </div>
    </p-popover>`,
  styles: `
    .act {
      padding: 0 5px;
    }
    .account {
      display: grid;
      gap: 10px;
      width: 340px;
      font-size: 14px;
    }
    h2,
    h3 {
      margin: 0;
    }
    h3 {
      font-size: 14px;
    }
    form {
      display: grid;
      gap: 10px;
    }
    .acts {
      display: flex;
      gap: 8px;
    }
    nav {
      display: flex;
      gap: 16px;
      padding-top: 10px;
      border-top: 1px solid var(--line);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AccountMenu {
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  readonly stationId = input.required<string>();
  protected readonly list = viewChild.required<Popover>('list');

  protected readonly sessions = signal<readonly SessionRow[]>([]);
  protected readonly changing = signal(false);
  protected readonly old = signal('');
  protected readonly password = signal('');
  protected readonly refused = signal<{ why: string; field?: string | undefined } | null>(null);
  protected readonly who = computed(() => this.session.person()?.name ?? 'Used without accounts');
  protected readonly role = computed(() => {
    const role = this.session.roleAt(this.stationId());
    return role ? `${ROLE_WORDS[role].word} at this station` : '';
  });

  protected open(event: Event): void {
    this.list().toggle(event);
    if (this.session.person()) void this.load();
  }

  protected closed(): void {
    this.changing.set(false);
    this.old.set('');
    this.password.set('');
    this.refused.set(null);
  }

  private async load(): Promise<void> {
    this.sessions.set(await this.api.ownSessions().catch(() => []));
  }

  protected why(field: string): string | null {
    const refused = this.refused();
    if (!refused) return null;
    return (refused.field ?? 'password') === field ? refused.why : null;
  }

  protected async save(event: Event): Promise<void> {
    event.preventDefault();
    this.refused.set(await this.session.changePassword(this.old(), this.password()));
    if (this.refused()) return;
    this.closed();
    this.notices.say('Password changed; every other browser is signed out.');
    await this.load();
  }

  protected async end(id: string): Promise<void> {
    await this.api.endOwnSession({ id }).catch((error: Error) => this.notices.fail(error.message));
    await this.load();
  }

  protected async endOthers(): Promise<void> {
    await this.api.endOwnSessions().catch((error: Error) => this.notices.fail(error.message));
    await this.load();
  }

  protected async signOut(): Promise<void> {
    const refused = await this.session.signOut();
    if (refused) this.notices.fail(refused.why);
    // Nothing that was read for this person stays.
    else globalThis.location.assign('/sign-in');
  }
}
