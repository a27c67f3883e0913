import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import type { RuleRow } from '@fuller/contracts';
import { RULE_FORMS, ruleSentence } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { ButtonDirective } from 'primeng/button';
import { Icon } from '../shared/ui/icon';
import { HeadroomScale } from './headroom-scale';
import { backTestWords } from './headroom-words';
import type { RuleChange } from './rule-change';
import { RuleNamesOfStation } from './rule-names';
import { RuleSentence } from './rule-sentence';
import type { Weighed } from './rules-engine';
import { SharedMark } from '../shared/sharing/shared-mark';
import { May } from '../shared/session/may';

/** A rule on the board: its sentence, where it applies, how much room it leaves and how often it would have been broken. */
@Component({
  selector: 'f-rule-card',
  imports: [SharedMark, May, SmallButton, ButtonDirective, HeadroomScale, Icon, RuleSentence],
  template: `<f-rule-sentence fMay="rules" fMayRead [rule]="rule()" (changed)="changed.emit($event)" />
    <f-shared-mark [scope]="rule().scope" />
    @if (places(); as where) {
      <p class="where">Only in {{ where }}</p>
    }
    @if (stations(); as names) {
      <p class="where">Only with {{ names }}</p>
    }
    @for (one of exceptions(); track $index) {
      <p class="where">{{ one }}</p>
    }
    @if (rule().note) {
      <p class="note">{{ rule().note }}</p>
    }
    <footer>
      @if (rule().shape !== 'across' && weighed(); as it) {
        <f-headroom-scale [headroom]="it.headroom" />
        @if (it.relations.length) {
          <span class="related" [title]="it.relations.length + ' notes on other rules'">
            <f-icon name="alert" [size]="14" /><span class="visually-hidden">Concerns another rule</span>
          </span>
        }
        @if (it.backTest.breaks) {
          <button pButton [pButtonUnstyled]="true" type="button" class="tested broken" (click)="open.emit()">
            {{ tested() }}
          </button>
        } @else {
          <span class="tested">{{ tested() }}</span>
        }
      }
      <button
        fButton="text"
        class="more"
        (click)="open.emit()"
        [attr.aria-pressed]="selected()"
        [attr.aria-label]="'Details of the rule: ' + sentence()">
        <f-icon name="more" [size]="16" />
      </button>
    </footer>`,
  styleUrl: './rule-card.scss',
  host: {
    '[class.resting]': 'rule().resting',
    '[class.wish]': "rule().strength === 'soft'",
    '[class.selected]': 'selected()',
    '[attr.aria-label]': 'sentence()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleCard {
  private readonly words = inject(RuleNamesOfStation);
  readonly rule = input.required<RuleRow>();
  readonly weighed = input<Weighed | null>(null);
  readonly selected = input(false);
  readonly changed = output<RuleChange>();
  readonly open = output();
  protected readonly sentence = computed(() => ruleSentence({ ...this.rule(), exceptions: [] }, this.words.names()));
  protected readonly places = computed(() =>
    this.rule()
      .places.map((place) => this.words.names().placeName(place))
      .join(', '),
  );
  private readonly allStations = inject(Store).selectSignal(catalogueFeature.selectStations);
  protected readonly stations = computed(() => {
    const { stationIds = [] } = this.rule();
    return stationIds
      .map((id) => this.allStations().find((one) => one.id === id)?.name ?? 'a station that is gone')
      .join(', ');
  });
  protected readonly exceptions = computed(() => {
    const form = RULE_FORMS[this.rule().shape];
    return this.rule().exceptions.map(
      (place) => `In ${this.words.names().placeName(place)} ${form.amountText(place.amount)}`,
    );
  });
  protected readonly tested = computed(() => {
    const weighed = this.weighed();
    return weighed ? backTestWords(weighed.backTest) : '';
  });
}
