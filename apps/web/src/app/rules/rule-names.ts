import { computed, inject, Injectable } from '@angular/core';
import { ruleNames, ruleSentence, RULE_FORMS, tagName, valueName, type RuleNames, type RulePlace } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';

/** Rules in words, with the names of the station open. */
@Injectable({ providedIn: 'root' })
export class RuleNamesOfStation {
  private readonly store = inject(Store);
  private readonly rules = this.store.selectSignal(catalogueFeature.selectRuleMap);
  private readonly families = this.store.selectSignal(catalogueFeature.selectFamilies);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly clocks = this.store.selectSignal(catalogueFeature.selectClockMap);
  private readonly shows = this.store.selectSignal(catalogueFeature.selectShows);

  readonly names = computed<RuleNames>(() =>
    ruleNames(this.families(), (place) => this.nameOf(place) ?? `a deleted ${place.kind}`),
  );

  /** A rule as a sentence. */
  sentence(ruleId: string): string {
    const rule = this.rules()[ruleId];
    return rule ? ruleSentence(rule, this.names()) : 'a rule that has been deleted';
  }

  /** What a rule is about: `artist`, `tempo slow`. */
  subject(ruleId: string): string {
    const rule = this.rules()[ruleId];
    if (!rule) return 'a rule';
    const name = tagName(rule.tag, this.names());
    return rule.value === null ? name : `${name} ${valueName(rule.tag, rule.value, this.names())}`;
  }

  /** By how much a rule is broken: `12 min too soon`, `1 too many`. */
  excess(ruleId: string, by: number): string {
    const rule = this.rules()[ruleId];
    return rule ? RULE_FORMS[rule.shape].excessText(by) : 'broken';
  }

  private nameOf({ kind, id }: RulePlace): string | undefined {
    switch (kind) {
      case 'category':
        return this.categories()[id]?.name;
      case 'clock':
        return this.clocks()[id]?.name;
      case 'show':
        return this.shows().find((show) => show.id === id)?.name;
    }
  }
}
