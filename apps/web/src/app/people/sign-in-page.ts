import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Router } from '@angular/router';
import type { Role } from '@fuller/contracts';
import { ButtonDirective } from 'primeng/button';
import { Card } from 'primeng/card';
import { Message } from 'primeng/message';
import { ROLE_WORDS } from './role-words';
import { Session } from '../shared/session/session.store';
import { SignInField } from './sign-in-field';

type Step = 'set-up' | 'sign-in' | 'change' | 'reading';

/** Where one signs in, makes the first account, or takes a password of one’s own. */
@Component({
  selector: 'f-sign-in-page',
  imports: [ButtonDirective, Card, Message, SignInField],
  templateUrl: './sign-in-page.html',
  styleUrl: './sign-in-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignInPage {
  protected readonly session = inject(Session);
  private readonly router = inject(Router);
  /** Where to go then. */
  readonly to = input<string>();

  protected readonly name = signal('');
  protected readonly password = signal('');
  protected readonly again = signal('');
  protected readonly code = signal('');
  protected readonly busy = signal(false);
  protected readonly refused = signal<{ why: string; field?: string | undefined } | null>(null);
  protected readonly roleWords = ROLE_WORDS;

  protected readonly step = computed<Step>(() => {
    const view = this.session.view();
    if (!view) return 'reading';
    if (view.person?.mustChange) return 'change';
    return view.state === 'set-up' ? 'set-up' : 'sign-in';
  });

  constructor() {
    void this.session.begin();
    effect(() => {
      if (this.session.isIn() && !this.busy()) void this.router.navigateByUrl(this.target(), { replaceUrl: true });
    });
  }

  /** Only within Fuller, whatever the address says. */
  private target(): string {
    const to = this.to() ?? '/';
    return /^\/(?![/\\])/.test(to) && !to.startsWith('/sign-in') ? to : '/';
  }

  protected why(field: string): string | null {
    const refused = this.refused();
    return refused?.field === field ? refused.why : null;
  }

  protected readonly general = computed(() => {
    const refused = this.refused();
    return refused && !['name', 'password', 'old', 'again', 'code'].includes(refused.field ?? '') ? refused.why : null;
  });

  protected async send(event: Event): Promise<void> {
    event.preventDefault();
    if (this.busy()) return;
    const [name, password] = [this.name().trim(), this.password()];
    const step = this.step();
    if (step !== 'change' && name === '') return this.refused.set({ why: 'Type your name.', field: 'name' });
    if (password === '') return this.refused.set({ why: 'Type a password.', field: 'password' });
    if (step !== 'sign-in' && this.again() !== password)
      return this.refused.set({ why: 'This is not the same password.', field: 'again' });
    if (step === 'set-up') return this.settle(this.session.makeFirst(name, password, this.code()));
    if (step === 'change') return this.settle(this.session.changePassword(this.code(), password));
    // Kept for the case that another one must be chosen now: the one just typed is the present one.
    this.code.set(password);
    await this.settle(this.session.signIn(name, password));
    if (this.step() === 'change') this.clear();
  }

  protected signInAs(role: Role): Promise<void> {
    return this.settle(this.session.signInDemo(role));
  }

  protected goWithout(): Promise<void> {
    return this.settle(this.session.goWithout());
  }

  private clear(): void {
    this.password.set('');
    this.again.set('');
  }

  private async settle(asking: Promise<{ why: string; field?: string | undefined } | null>): Promise<void> {
    this.busy.set(true);
    this.refused.set(null);
    this.refused.set(await asking);
    // Nothing that was read for somebody else stays.
    if (this.session.isIn()) return globalThis.location.assign(this.target());
    this.busy.set(false);
  }
}
