import { computed, inject, Injectable } from '@angular/core';
import {
  limitRules,
  ruleNames,
  ruleSentence,
  RULE_FORMS,
  tagName,
  valueName,
  type Rule,
  type RuleNames,
  type RulePlace,
} from '@fuller/core';
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
  private readonly dayparts = this.store.selectSignal(catalogueFeature.selectDayparts);
  private readonly limits = this.store.selectSignal(catalogueFeature.selectLimits);
  private readonly allCategories = this.store.selectSignal(catalogueFeature.selectAllCategories);

  private readonly limitRules = computed(() => limitRules(this.limits().strict));

  /** Every rule that strains can name, by id. */
  readonly byId = computed<Readonly<Record<string, Rule | undefined>>>(() => ({
    ...this.rules(),
    ...Object.fromEntries(this.limitRules().map((rule) => [rule.id, rule])),
  }));

  readonly names = computed<RuleNames>(() =>
    ruleNames(this.families(), (place) => this.nameOf(place) ?? `a deleted ${place.kind}`, this.allCategories()),
  );

  /** A rule of the station, or one that stands for a statutory limit. */
  rule(ruleId: string): Rule | undefined {
    return this.byId()[ruleId];
  }

  /** What a value is called: an artist or title is known by a key that says nothing to a person. */
  valueWords(tag: string, value: string): string {
    const named = this.names().tags.find(({ id }) => id === tag);
    return named && named.values.length > 0
      ? `${named.name} ${valueName(tag, value, this.names())}`
      : `one ${tagName(tag, this.names())}`;
  }

  /** A rule as a sentence. */
  sentence(ruleId: string): string {
    const rule = this.rule(ruleId);
    return rule ? ruleSentence(rule, this.names()) : 'a rule that has been deleted';
  }

  /** What a rule is about: `artist`, `tempo slow`. */
  subject(ruleId: string): string {
    const rule = this.rule(ruleId);
    if (!rule) return 'a rule';
    const name = tagName(rule.tag, this.names());
    return rule.value === null ? name : `${name} ${valueName(rule.tag, rule.value, this.names())}`;
  }

  /** By how much a rule is broken: `12 min too soon`, `1 too many`. */
  excess(ruleId: string, by: number): string {
    const rule = this.rule(ruleId);
    return rule ? RULE_FORMS[rule.shape].excessText(by) : 'broken';
  }

  private nameOf({ kind, id }: RulePlace): string | undefined {
    switch (kind) {
      case 'daypart':
        return this.dayparts().find((daypart) => daypart.id === id)?.name;
      case 'category':
        return this.categories()[id]?.name;
      case 'clock':
        return this.clocks()[id]?.name;
      case 'show':
        return this.shows().find((show) => show.id === id)?.name;
    }
  }
}
