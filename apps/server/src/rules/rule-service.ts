import type { RulePatch, RuleRow } from '@fuller/contracts';
import { faultOfRule, ruleSentence, type Rule, type RulePlace } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { RuleEntity, type RuleRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { referencesOf, type NamingRows } from '../sharing/references.js';
import { mustBeSeen } from '../sharing/seen-by-all.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { mustKnow } from './rule-checks.js';
import { namesForRules } from './rule-names.js';
import { ruleOf } from './rule-rows.js';
import { rulesAt } from './rules-at.js';

type Write<T> = Promise<Written<T>>;

/** The rules of a station. */
export class RuleService {
  constructor(private readonly store: Store) {}

  async rows(stationId: string, em: Em = this.store.read): Promise<RuleRow[]> {
    const rows = await rulesAt(em, stationId);
    return rows.map((row) => ({ ...ruleOf(row), revision: row.revision, position: row.position, scope: row.scope }));
  }

  async create({ stationId, clientId }: StationActor, fields: Omit<Rule, 'id'>): Write<string> {
    const names = await namesForRules(this.store.read);
    return this.store.write(
      { clientId, stationId, label: `New rule: ${ruleSentence(fields, names)}` },
      async (changes) => {
        await mustKnow(changes.em, fields);
        await mustBeSeen(changes.em, referencesOf('rule', mutable(fields)), stationId, () => 'places');
        const id = newId();
        const position = await nextPosition(changes.em, 'rule');
        await changes.insert('rule', [{ ...fields, id, revision: 1, scope: 'station', stationId, position }]);
        return id;
      },
    );
  }

  async update({ stationId, clientId }: StationActor, id: string, { revision, ...patch }: RulePatch): Write<string> {
    const before = await this.store.read.findOne(RuleEntity, { id });
    const label = `${verbOf(patch)}: ${before ? ruleSentence({ ...ruleOf(before), ...patch }, await namesForRules(this.store.read)) : ''}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      await this.updateIn(changes, id, { revision, ...patch });
      return id;
    });
  }

  /** Within a write: changes a rule. */
  async updateIn(changes: ChangeSet, id: string, { revision, ...patch }: RulePatch): Promise<void> {
    const row = (await changes.mustSee('rule', id)) as unknown as RuleRecord;
    const fault = faultOfRule({ ...ruleOf(row), ...patch });
    if (fault) throw new FullerError('INVALID', `“${fault.field}” ${fault.why}.`, fault.field);
    const now = { ...ruleOf(row), ...patch };
    await mustKnow(changes.em, now);
    // What a shared rule names of one station already is that station’s copy of a shared place.
    const before = new Set(referencesOf('rule', row).map(({ id }) => id));
    const named = referencesOf('rule', mutable(now)).filter((one) => !before.has(one.id));
    await mustBeSeen(changes.em, named, row.stationId ?? null, () => 'places');
    await changes.update('rule', id, patch, revision);
  }

  async remove({ stationId, clientId }: StationActor, id: string): Write<string> {
    const row = await this.store.read.findOne(RuleEntity, { id });
    if (!row || (row.scope !== 'group' && row.stationId !== stationId)) throw notFound('rule', id);
    const label = `Delete rule: ${ruleSentence(ruleOf(row), await namesForRules(this.store.read))}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      await changes.remove('rule', id);
      return id;
    });
  }

  /** Copies the rules of one place to another of its kind: those that are for it alone or among others, and what differs in it. */
  async copy(
    { stationId, clientId }: StationActor,
    { kind, from, to }: { readonly kind: RulePlace['kind']; readonly from: string; readonly to: string },
  ): Write<number> {
    const names = await namesForRules(this.store.read);
    const [source, target] = [names.placeName({ kind, id: from }), names.placeName({ kind, id: to })];
    const label = `Copy the rules of ${source} to ${target}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const rows = await rulesAt(changes.em, stationId);
      let copied = 0;
      for (const row of rows) {
        const rule = copiedTo(ruleOf(row), { kind, id: from }, { kind, id: to });
        if (!rule) continue;
        await mustKnow(changes.em, rule);
        await changes.update('rule', row.id, { places: rule.places, exceptions: rule.exceptions });
        copied++;
      }
      if (copied === 0) throw new FullerError('INVALID', `No rule is for ${source} or differs in it.`, 'from');
      return copied;
    });
  }
}

/** A rule that asks of one place what it asks of another; null where it asks nothing of its own there, or the same already. */
function copiedTo(rule: Rule, from: RulePlace, to: RulePlace): Rule | null {
  const isAt = (place: RulePlace) => (one: RulePlace) => one.kind === place.kind && one.id === place.id;
  const places =
    rule.places.some(isAt(from)) && !rule.places.some(isAt(to)) ? [...rule.places, { ...to }] : rule.places;
  const own = rule.exceptions.find(isAt(from));
  const exceptions = own
    ? [...rule.exceptions.filter((one) => !isAt(to)(one)), { ...to, amount: own.amount }]
    : rule.exceptions;
  const same = !own || rule.exceptions.find(isAt(to))?.amount === own.amount;
  return places === rule.places && same ? null : { ...rule, places, exceptions };
}

function mutable({ tag, value, followedBy, places, exceptions }: Omit<Rule, 'id'>): NamingRows['rule'] {
  return { tag, value, followedBy, places: [...places], exceptions: [...exceptions] };
}

function verbOf(patch: Partial<Rule>): string {
  if (patch.resting === undefined) return 'Change rule';
  return patch.resting ? 'Rest rule' : 'Apply rule again';
}
