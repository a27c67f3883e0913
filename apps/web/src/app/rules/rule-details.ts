import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { RuleRow } from '@fuller/contracts';
import { readRuleAmount, RULE_FORMS, type RulePlace } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import { Textarea } from 'primeng/textarea';
import { Icon } from '../shared/ui/icon';
import { KeepOrCancel } from '../shared/ui/keep-or-cancel';
import { HeadroomScale } from './headroom-scale';
import { backTestWords, headroomWords, relationWords, trapWords } from './headroom-words';
import { PlaceChooser } from './place-chooser';
import type { RuleChange } from './rule-change';
import { RuleNamesOfStation } from './rule-names';
import { RulesStore } from './rules.store';
import { SharingPanel } from '../shared/sharing/sharing-panel';
import { ForecastThis } from '../shared/forecast-this';
import { May } from '../shared/session/may';

/** The rule that is chosen: what it comes to, where it applies, what differs where, and why it is there. */
@Component({
  selector: 'f-rule-details',
  imports: [
    ForecastThis,
    May,
    SmallButton,
    ButtonDirective,
    HeadroomScale,
    Icon,
    InputText,
    FormsModule,
    KeepOrCancel,
    MultiSelect,
    PlaceChooser,
    RouterLink,
    SharingPanel,
    Textarea,
  ],
  templateUrl: './rule-details.html',
  styleUrl: './rule-details.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RuleDetails {
  private readonly words = inject(RuleNamesOfStation);
  private readonly board = inject(RulesStore);
  private readonly stations = inject(Store).selectSignal(catalogueFeature.selectStations);
  protected readonly otherStations = computed(() =>
    this.stations().filter(({ id, archived }) => id !== this.stationId() && !archived),
  );
  readonly rule = input.required<RuleRow>();
  readonly stationId = input.required<string>();
  readonly changed = output<RuleChange>();
  readonly remove = output();
  /** It is another rule now: its id. */
  readonly became = output<string>();
  protected readonly weighed = computed(() => this.board.weighed()[this.rule().id] ?? null);
  protected readonly hasAmount = computed(() => RULE_FORMS[this.rule().shape].amount !== null);

  protected readonly figures = computed(() => {
    const weighed = this.weighed();
    if (!weighed) return null;
    const { headroom, relations, backTest } = weighed;
    const value = this.board.valueName()(this.rule().tag, headroom.trap?.value ?? headroom.value);
    const name = (id: string): string => this.words.names().placeName({ kind: 'category', id });
    const sentence = (id: string): string => this.words.sentence(id);
    return {
      headroom,
      words: headroomWords(headroom, name, value),
      trap: trapWords(headroom, name, value),
      relations: relations.map((one) => relationWords(one, sentence)),
      tested: backTestWords(backTest),
      places: backTest.places.slice(0, 20).map(({ date, startMs, itemId, by }) => ({
        date,
        startMs,
        when: this.board.timeText(startMs),
        title: this.board.known().items.get(itemId)?.title ?? 'Deleted item',
        by: RULE_FORMS[this.rule().shape].excessText(by),
      })),
      more: Math.max(0, backTest.breaks - 20),
    };
  });

  protected nameOf(place: RulePlace): string {
    return this.words.names().placeName(place);
  }

  protected amountText(amount: number): string {
    return RULE_FORMS[this.rule().shape].amountPart(amount);
  }

  protected addPlace(place: RulePlace): void {
    this.changed.emit({ places: [...this.rule().places, place] });
  }

  protected dropPlace(at: number): void {
    this.changed.emit({ places: this.rule().places.filter((_, index) => index !== at) });
  }

  protected addException(place: RulePlace): void {
    const { exceptions, amount } = this.rule();
    this.changed.emit({ exceptions: [...exceptions, { ...place, amount }] });
  }

  protected dropException(at: number): void {
    this.changed.emit({ exceptions: this.rule().exceptions.filter((_, index) => index !== at) });
  }

  /** Keeps the amount of a place; why it was refused, null when it was kept. */
  protected keepAmount(at: number): (text: string) => Promise<string | null> {
    return (text) => {
      const read = readRuleAmount(this.rule().shape, text);
      if (read.ok)
        this.changed.emit({
          exceptions: this.rule().exceptions.map((one, index) =>
            index === at ? { ...one, amount: read.amount } : one,
          ),
        });
      return Promise.resolve(read.ok ? null : read.why);
    };
  }

  protected readonly keepNote = (note: string): Promise<string | null> => {
    this.changed.emit({ note });
    return Promise.resolve(null);
  };

  protected copyTo(place: RulePlace): void {
    void this.board.copyTo(this.rule(), place);
  }
}
