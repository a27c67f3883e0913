import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { InputText } from 'primeng/inputtext';
import { KeysHelp } from '../frame/keys-help';
import { EmptyState } from '../shared/ui/empty-state';
import { type Guide, GuideReader } from './guide';

/** The guide: its pages at the left, with a search over all of them. */
@Component({
  selector: 'f-help-page',
  imports: [InputText, RouterLink, EmptyState],
  templateUrl: './help-page.html',
  styleUrl: './help-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HelpPage {
  private readonly router = inject(Router);
  readonly stationId = input.required<string>();
  readonly pageId = input.required<string>();
  /** The section an address leads to. */
  readonly section = input<string>();
  protected readonly guide = signal<Guide | null>(null);
  protected readonly failed = signal(false);
  protected readonly question = signal('');
  protected readonly page = computed(() => this.guide()?.page(this.pageId()) ?? null);
  protected readonly hits = computed(() => {
    const question = this.question().trim();
    return question === '' ? null : (this.guide()?.find(question) ?? []);
  });
  private readonly text = viewChild<ElementRef<HTMLElement>>('text');

  constructor() {
    inject(KeysHelp).place.set({ name: 'Help', keys: [{ keys: ['/'], does: 'search the guide' }] });
    inject(GuideReader)
      .read()
      .then(
        (guide) => this.guide.set(guide),
        () => this.failed.set(true),
      );
    effect(() => {
      const [page, section] = [this.page(), this.section()];
      const text = this.text()?.nativeElement;
      if (!page || !text) return;
      // The page is drawn by now.
      setTimeout(() => {
        const to = section ? text.querySelector(`#${CSS.escape(section)}`) : null;
        if (to) to.scrollIntoView();
        else text.scrollTop = 0;
      });
    });
  }

  /** A link of the guide leads to another of its pages without leaving the application. */
  protected follow(event: MouseEvent): void {
    const href = (event.target as HTMLElement).closest('a')?.getAttribute('href');
    if (!href?.startsWith('help/') || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    void this.router.navigate(['/', this.stationId(), ...href.split('/')]);
  }

  protected readonly linkOf = (pageId: string): string[] => ['/', this.stationId(), 'help', pageId];

  protected onKey(event: KeyboardEvent, field: HTMLInputElement): void {
    if (event.key !== '/' || event.target === field) return;
    event.preventDefault();
    field.focus();
  }
}
