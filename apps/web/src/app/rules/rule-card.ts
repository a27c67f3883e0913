import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { RuleRow } from '@fuller/contracts';
import { formatSpan, readSeparation, SEPARATED_TAGS, sentenceOf, type SeparatedTag } from '@fuller/core';
import { Store } from '@ngrx/store';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { Icon } from '../shared/ui/icon';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import { catalogueFeature } from '../state/catalogue.feature';

export type RuleChange = Partial<Pick<RuleRow, 'tag' | 'seconds' | 'secondsByCategory' | 'resting'>>;

/** A rule as a sentence whose parts are edited in place. */
@Component({
  selector: 'f-rule-card',
  imports: [Icon, CategoryChooser, KeepOrCancel],
  template: `@let it = rule();
    <p class="sentence">
      Keep the same
      <select class="part" [attr.aria-label]="'What is kept apart: ' + it.tag" (change)="setTag($any($event.target).value)">
        @for (tag of tags; track tag) {
          <option [value]="tag" [selected]="tag === it.tag">{{ tag }}</option>
        }
      </select>
      at least
      <input
        fKeepOrCancel
        #distance
        class="part"
        [value]="span(it.seconds)"
        [size]="sizeOf(span(it.seconds))"
        aria-label="Distance"
        (blur)="setSeconds(distance)"
        autocomplete="off" />
      apart.
    </p>
    @for (one of exceptions(); track one.id) {
      <p class="exception">
        in {{ one.name }}
        <input
          fKeepOrCancel
          #own
          class="part"
          [value]="span(one.seconds)"
          [size]="sizeOf(span(one.seconds))"
          [attr.aria-label]="'Distance in ' + one.name"
          (blur)="setException(one.id, own)"
          autocomplete="off" />
        <button type="button" class="act bare small" (click)="dropException(one.id)" [attr.aria-label]="'No own distance in ' + one.name">
          <f-icon name="close" [size]="13" />
        </button>
      </p>
    }
    @if (refused()) {
      <p class="error-text" role="alert">{{ refused() }}</p>
    }
    @if (adding()) {
      <f-category-chooser
        [fieldId]="'exception-' + it.id"
        placeholder="Own distance in…"
        label="Category with its own distance"
        (choose)="addException($event)" />
    }
    <footer>
      <button type="button" class="act bare small" (click)="adding.set(!adding())" [attr.aria-expanded]="adding()">
        <f-icon name="plus" [size]="14" />Own distance in a category
      </button>
      <span class="gap"></span>
      <button type="button" class="act bare small" (click)="change.emit({ resting: !it.resting })">
        <f-icon [name]="it.resting ? 'play' : 'pause'" [size]="14" />{{ it.resting ? 'Take up' : 'Rest' }}
      </button>
      <button type="button" class="act bare small danger" (click)="remove.emit()" [attr.aria-label]="'Delete the rule: ' + words()">
        <f-icon name="delete" [size]="14" />
      </button>
    </footer>`,
  styles: `
    :host {
      display: block;
      padding: 12px 14px 8px;
      border: 1px solid var(--line);
      border-left: 4px solid var(--madder);
      border-radius: 4px;
      background: var(--paper);
    }
    :host(.resting) {
      border-left: 4px double var(--line-strong);
    }
    :host(:focus-visible) {
      outline-offset: 2px;
    }
    .sentence {
      font-size: 16px;
      line-height: 1.7;
    }
    .exception {
      display: flex;
      align-items: center;
      gap: 6px;
      padding-left: 16px;
      color: var(--quiet);
      font-size: 14px;
    }
    .part {
      border: 0;
      border-bottom: 1.5px dashed var(--line-strong);
      background: none;
      padding: 1px 3px;
      font-weight: 600;
      border-radius: 0;
      color: var(--ink);
      field-sizing: content;
    }
    .part:hover {
      border-bottom-color: var(--woad);
    }
    .part:focus {
      outline: 2px solid var(--woad);
      border-radius: 2px;
    }
    option {
      background: var(--paper);
    }
    footer {
      display: flex;
      align-items: center;
      margin: 6px -8px 0;
    }
    .gap {
      flex: 1;
    }
    .small {
      height: 26px;
      font-size: 13px;
      color: var(--quiet);
    }
  `,
  host: { '[class.resting]': 'rule().resting' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleCard {
  private readonly categories = inject(Store).selectSignal(catalogueFeature.selectCategoryMap);
  readonly rule = input.required<RuleRow>();
  readonly change = output<RuleChange>();
  readonly remove = output();
  protected readonly tags = SEPARATED_TAGS;
  protected readonly adding = signal(false);
  protected readonly refused = signal<string | null>(null);
  protected readonly exceptions = computed(() =>
    Object.entries(this.rule().secondsByCategory).map(([id, seconds]) => ({
      id,
      seconds,
      name: this.categories()[id]?.name ?? 'a deleted category',
    })),
  );
  protected readonly words = computed(() => sentenceOf(this.rule(), (id) => this.categories()[id]?.name ?? 'a deleted category'));

  protected span(seconds: number): string {
    return formatSpan(seconds);
  }

  protected sizeOf(text: string): number {
    return Math.max(4, text.length);
  }

  protected setTag(tag: SeparatedTag): void {
    this.change.emit({ tag });
  }

  /** The seconds typed into a field, or null after saying why not; the field then shows the old value again. */
  private read(field: HTMLInputElement, old: number): number | null {
    const read = readSeparation(field.value);
    this.refused.set(read.ok ? null : read.why);
    // What is refused stays in the field, to be put right.
    if (!read.ok) return null;
    field.value = this.span(read.seconds);
    return read.seconds === old ? null : read.seconds;
  }

  protected setSeconds(field: HTMLInputElement): void {
    const seconds = this.read(field, this.rule().seconds);
    if (seconds !== null) this.change.emit({ seconds });
  }

  protected setException(id: string, field: HTMLInputElement): void {
    const seconds = this.read(field, this.rule().secondsByCategory[id]!);
    if (seconds !== null) this.change.emit({ secondsByCategory: { ...this.rule().secondsByCategory, [id]: seconds } });
  }

  protected addException(id: string): void {
    this.adding.set(false);
    if (!(id in this.rule().secondsByCategory))
      this.change.emit({ secondsByCategory: { ...this.rule().secondsByCategory, [id]: this.rule().seconds } });
  }

  protected dropException(id: string): void {
    this.change.emit({
      secondsByCategory: Object.fromEntries(Object.entries(this.rule().secondsByCategory).filter(([key]) => key !== id)),
    });
  }
}
