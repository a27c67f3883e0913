import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { RuleRow } from '@fuller/contracts';
import { partText, readRuleAmount, readRuleWindow, RULE_FORMS, subjectText, type SentencePart } from '@fuller/core';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import type { RuleChange } from './rule-change';
import { RuleNamesOfStation } from './rule-names';

interface SubjectOption {
  readonly key: string;
  readonly label: string;
  readonly tag: string;
  readonly value: string | null;
}

const keyOf = (tag: string, value: string | null): string => JSON.stringify([tag, value]);

/** A rule as a sentence whose parts are edited where they stand. */
@Component({
  selector: 'f-rule-sentence',
  imports: [FormsModule, InputText, KeepOrCancel, Select],
  template: `<p class="sentence">
      @for (piece of pieces(); track $index) {
        @if (piece.part === null) {
          <span>{{ piece.words }}</span>
        } @else if (piece.part === 'amount' || piece.part === 'window') {
          <input
            pInputText
            [fKeepOrCancel]="piece.part === 'amount' ? setAmount : setWindow"
            class="part"
            [value]="piece.words"
            [size]="piece.size"
            [attr.aria-label]="piece.part === 'amount' ? 'Amount' : 'In which stretch of time'"
            autocomplete="off" />
        } @else {
          <p-select
            class="part"
            [options]="$any(piece.part === 'subject' ? subjects() : piece.part === 'next' ? nextValues() : values())"
            [ngModel]="piece.key"
            (ngModelChange)="setSubject(piece.part, $event)"
            optionValue="key"
            optionLabel="label"
            [filter]="true"
            filterBy="label"
            [autofocusFilter]="true"
            [resetFilterOnHide]="true"
            [ariaLabel]="labelOf(piece.part) + ': ' + piece.words"
            appendTo="body"
            scrollHeight="320px"
            size="small" />
        }
      }
    </p>
    @if (refused(); as why) {
      <p class="error-text" role="alert">{{ why }}</p>
    }`,
  styleUrl: './rule-sentence.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleSentence {
  private readonly words = inject(RuleNamesOfStation);
  readonly rule = input.required<RuleRow>();
  readonly changed = output<RuleChange>();
  protected readonly refused = signal<string | null>(null);

  protected readonly pieces = computed(() => {
    const [rule, names] = [this.rule(), this.words.names()];
    return RULE_FORMS[rule.shape].pieces.map((piece) => {
      if ('words' in piece) return { part: null, words: piece.words, key: '', size: 0 };
      const words = partText(piece.part, rule, names);
      const value = piece.part === 'next' ? rule.followedBy : rule.value;
      return { part: piece.part, words, key: keyOf(rule.tag, value), size: Math.max(3, words.length) };
    });
  });

  /** Everything a rule can be about: tags as a whole, and their values. */
  protected readonly subjects = computed(() => [
    ...this.words.names().tags.map(({ id }) => this.option(id, null)),
    ...this.values(),
  ]);
  protected readonly values = computed(() =>
    this.words.names().tags.flatMap(({ id, values }) => values.map((value) => this.option(id, value))),
  );
  protected readonly nextValues = computed(() => this.values().filter(({ tag }) => tag === this.rule().tag));

  private option(tag: string, value: string | null): SubjectOption {
    return { key: keyOf(tag, value), label: subjectText({ tag, value }, this.words.names()), tag, value };
  }

  protected labelOf(part: SentencePart): string {
    return part === 'subject' ? 'What the rule is about' : part === 'next' ? 'What may not follow' : 'What plays first';
  }

  protected setSubject(part: SentencePart, key: string): void {
    const chosen = this.subjects().find((one) => one.key === key);
    const rule = this.rule();
    if (!chosen) return;
    if (part === 'next') this.changed.emit({ followedBy: chosen.value });
    else if (part === 'first' && chosen.tag !== rule.tag)
      // The other value belongs to the old tag: begin with one of the new tag.
      this.changed.emit({ tag: chosen.tag, value: chosen.value, followedBy: chosen.value });
    else this.changed.emit({ tag: chosen.tag, value: chosen.value });
  }

  protected readonly setAmount = (text: string): Promise<string | null> => {
    const read = readRuleAmount(this.rule().shape, text);
    this.refused.set(read.ok ? null : read.why);
    if (read.ok && read.amount !== this.rule().amount) this.changed.emit({ amount: read.amount });
    return Promise.resolve(read.ok ? null : read.why);
  };

  protected readonly setWindow = (text: string): Promise<string | null> => {
    const read = readRuleWindow(text);
    this.refused.set(read.ok ? null : read.why);
    if (read.ok && read.windowSeconds !== this.rule().windowSeconds)
      this.changed.emit({ windowSeconds: read.windowSeconds });
    return Promise.resolve(read.ok ? null : read.why);
  };
}
