import type { RuleInFile, RulesFile } from '@fuller/contracts';
import {
  faultOfRule,
  foldText,
  readRuleAmount,
  readRuleSentence,
  RULE_FORMS,
  ruleSentence,
  type Rule,
  type RuleNames,
  type RulePlace,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { StationEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { visibleTo } from '../db/visible.js';
import { rulesAt } from './rules-at.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { Store, Written } from '../store/store.js';
import { mustKnow } from './rule-checks.js';
import { namesForRules, PLACE_ENTITIES } from './rule-names.js';
import type { RuleService } from './rule-service.js';

/** Rules of a station as a file that can be taken to another: sentences and names, no ids. */
export class RulesFileService {
  constructor(
    private readonly store: Store,
    private readonly rules: RuleService,
  ) {}

  async write(stationId: string): Promise<RulesFile> {
    const names = await namesForRules(this.store.read);
    const rows = await this.rules.rows(stationId);
    const stations = await this.store.read.find(StationEntity, {}, { fields: ['id', 'name'] });
    return { format: 'fuller-rules', version: 1, rules: rows.map((rule) => inFile(rule, names, stations)) };
  }

  /** Takes the rules of a file in, all or none. Throws INVALID naming the rule that cannot be read. */
  async take({ stationId, clientId }: StationActor, file: RulesFile, replace: boolean): Promise<Written<number>> {
    const names = await namesForRules(this.store.read);
    const many = file.rules.length === 1 ? 'a rule' : `${file.rules.length} rules`;
    const label = replace ? `Replace the rules by ${many} of a file` : `Add ${many} of a file`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const { em } = changes;
      if (replace)
        for (const { id, scope, notAt } of await rulesAt(em, stationId))
          // Other stations keep what is shared.
          if (scope === 'group') await changes.update('rule', id, { notAt: [...notAt, stationId] });
          else await changes.remove('rule', id);
      let position = await nextPosition(em, 'rule');
      for (const [index, one] of file.rules.entries()) {
        const rule = await this.read(em, stationId, one, index, names);
        await changes.insert('rule', [
          { ...rule, id: newId(), revision: 1, scope: 'station', stationId, position: position++ },
        ]);
      }
      return file.rules.length;
    });
  }

  private async read(
    em: Em,
    stationId: string,
    one: RuleInFile,
    index: number,
    names: RuleNames,
  ): Promise<Omit<Rule, 'id'>> {
    const refuse = (why: string): never => {
      throw new FullerError('INVALID', `Rule ${index + 1}, “${one.sentence}”: ${why}`, `file.rules.${index}`);
    };
    const read = readRuleSentence(one.sentence, names);
    if (!read.ok) return refuse(read.why);
    const placeOf = async (kind: RulePlace['kind'], name: string): Promise<RulePlace> => {
      const found = (await em.find(PLACE_ENTITIES[kind], visibleIn(kind, stationId) as never)).find(
        (row) => foldText(row.name) === foldText(name),
      );
      return found ? { kind, id: found.id } : refuse(`there is no ${kind} “${name}” here.`);
    };
    const exceptions = [];
    for (const { kind, name, amount } of one.exceptions) {
      const asked = readRuleAmount(read.parts.shape, amount);
      if (!asked.ok) return refuse(asked.why);
      exceptions.push({ ...(await placeOf(kind, name)), amount: asked.amount });
    }
    const places = [];
    for (const { kind, name } of one.places) places.push(await placeOf(kind, name));
    const stationIds = [];
    for (const name of one.stations) {
      const stations = await em.find(StationEntity, {}, { fields: ['id', 'name'] });
      const found = stations.find((row) => foldText(row.name) === foldText(name));
      stationIds.push(found?.id ?? refuse(`there is no station “${name}”.`));
    }
    // A shape that can be a wish alone is made as one.
    const hard = one.strength === 'must' && RULE_FORMS[read.parts.shape].strengths.includes('hard');
    const rule = {
      ...read.parts,
      exceptions,
      places,
      strength: hard ? ('hard' as const) : ('soft' as const),
      rank: hard ? 0 : (one.rank ?? 1),
      resting: one.resting,
      note: one.note,
      stationIds,
    };
    const fault = faultOfRule(rule);
    if (fault) return refuse(`its ${fault.field} ${fault.why}.`);
    await mustKnow(em, rule);
    return rule;
  }
}

function visibleIn(kind: RulePlace['kind'], stationId: string): object {
  return kind === 'category' || kind === 'clock' ? visibleTo(stationId) : { stationId };
}

function inFile(
  rule: Rule,
  names: RuleNames,
  stations: readonly { readonly id: string; readonly name: string }[],
): RuleInFile {
  const form = RULE_FORMS[rule.shape];
  return {
    sentence: ruleSentence({ ...rule, exceptions: [] }, names),
    strength: rule.strength === 'hard' ? 'must' : 'wish',
    ...(rule.rank > 0 && { rank: rule.rank }),
    resting: rule.resting,
    note: rule.note,
    stations: stations.filter(({ id }) => rule.stationIds?.includes(id)).map(({ name }) => name),
    places: rule.places.map((place) => ({ kind: place.kind, name: names.placeName(place) })),
    exceptions: rule.exceptions.map((place) => ({
      kind: place.kind,
      name: names.placeName(place),
      amount: form.amountText(place.amount),
    })),
  };
}
