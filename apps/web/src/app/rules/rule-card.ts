import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { RuleRow } from '@fuller/contracts';
import {
  elementAt,
  formatSpan,
  ITEM_TAGS,
  readRuleSentence,
  readSeparation,
  RULE_FORMS,
  ruleSentence,
  type Rule,
  type RuleException,
} from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { Icon } from '../shared/ui/icon';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import { RuleNamesOfStation } from './rule-names';

export type RuleChange = Partial<Omit<Rule, 'id'>>;

/** A rule as a sentence that is edited in place: a separation by its parts, every other shape as it is typed. */
@Component({
  selector: 'f-rule-card',
  imports: [ButtonDirective, CategoryChooser, FormsModule, Icon, InputText, KeepOrCancel, Select],
  templateUrl: './rule-card.html',
  styleUrl: './rule-card.scss',
  host: { '[class.resting]': 'rule().resting', '[class.wish]': "rule().strength === 'soft'" },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleCard {
  private readonly words = inject(RuleNamesOfStation);
  readonly rule = input.required<RuleRow>();
  readonly change = output<RuleChange>();
  readonly remove = output();
  protected readonly tags = [...ITEM_TAGS];
  protected readonly adding = signal(false);
  protected readonly refused = signal<string | null>(null);
  /** A separation of whole tags has its parts as fields. */
  protected readonly byParts = computed(
    () => this.rule().shape === 'apart' && this.rule().value === null && this.isItemTag(),
  );
  /** Without its exceptions, which stand below: what is shown here is read back when it is edited. */
  protected readonly sentence = computed(() => ruleSentence({ ...this.rule(), exceptions: [] }, this.words.names()));
  protected readonly exceptions = computed(() =>
    this.rule().exceptions.map((exception) => ({
      ...exception,
      name: this.words.names().placeName(exception),
      text: RULE_FORMS[this.rule().shape].amountText(exception.amount),
    })),
  );

  private isItemTag(): boolean {
    return (ITEM_TAGS as readonly string[]).includes(this.rule().tag);
  }

  protected span(seconds: number): string {
    return formatSpan(seconds);
  }

  protected sizeOf(text: string): number {
    return Math.max(4, text.length);
  }

  protected setTag(tag: string): void {
    if (tag !== this.rule().tag) this.change.emit({ tag });
  }

  /** Takes a sentence typed over the old one; why it was refused, null when it was taken. */
  protected readonly setSentence = (text: string): Promise<string | null> => {
    const read = readRuleSentence(text, this.words.names());
    if (!read.ok) return Promise.resolve(read.why);
    // Only what the sentence says changes; its exceptions stay where the shape does.
    const { exceptions, ...parts } = read.parts;
    void exceptions;
    const kept = parts.shape === this.rule().shape ? {} : { exceptions: [] };
    const strength =
      parts.shape === 'atLeast' ? { strength: 'soft' as const, rank: Math.max(1, this.rule().rank) } : {};
    this.change.emit({ ...parts, ...kept, ...strength });
    return Promise.resolve(null);
  };

  /** The seconds typed into a field, or null after saying why not. */
  private read(field: HTMLInputElement, old: number): number | null {
    const read = readSeparation(field.value);
    this.refused.set(read.ok ? null : read.why);
    // What is refused stays in the field, to be put right.
    if (!read.ok) return null;
    field.value = this.span(read.seconds);
    return read.seconds === old ? null : read.seconds;
  }

  protected setSeconds(field: HTMLInputElement): void {
    const amount = this.read(field, this.rule().amount);
    if (amount !== null) this.change.emit({ amount });
  }

  protected setException(at: number, field: HTMLInputElement): void {
    const { exceptions } = this.rule();
    const amount = this.read(field, elementAt(exceptions, at).amount);
    if (amount !== null)
      this.change.emit({ exceptions: exceptions.map((one, index) => (index === at ? { ...one, amount } : one)) });
  }

  protected addException(id: string): void {
    this.adding.set(false);
    const { exceptions, amount } = this.rule();
    if (exceptions.some((one) => one.kind === 'category' && one.id === id)) return;
    this.change.emit({ exceptions: [...exceptions, { kind: 'category', id, amount } satisfies RuleException] });
  }

  protected dropException(at: number): void {
    this.change.emit({ exceptions: this.rule().exceptions.filter((_, index) => index !== at) });
  }
}
