import { describe, expect, it } from '@jest/globals';
import type { RuleRow } from '@fuller/contracts';
import { openPlace } from '../testing/place';
import { ruleRow as rule } from '../testing/rows';
import { nextColumn, RulesStore } from './rules.store';

const WISH = rule('wish', { strength: 'soft', rank: 1 });
const RESTING = rule('resting', { resting: true });
const AT_LEAST = rule('least', { shape: 'atLeast', tag: 'Tempo', value: 'slow', strength: 'soft', rank: 1 });

function board(...rules: RuleRow[]) {
  return openPlace(RulesStore, {
    catalogue: { rules, families: [{ id: 'Tempo', name: 'Tempo', values: ['slow'] }] as never },
  });
}

describe('the board of rules', () => {
  it('has musts, wishes and what is resting, whatever a resting rule was before', () => {
    const { store } = board(rule('must'), WISH, RESTING, rule('old-wish', { strength: 'soft', resting: true }));
    expect(store.columns().map(({ key, rules }) => [key, rules.map(({ id }) => id)])).toEqual([
      ['must', ['must']],
      ['wish', ['wish']],
      ['resting', ['resting', 'old-wish']],
    ]);
  });

  it('says how a sentence is understood, and why it is none only when it was tried', async () => {
    const { store, server } = board();
    store.type('keep the same artist at least 90 min apart');
    expect(store.reading()).toMatch(/^Understood: .*artist.*90 min/);
    store.type('play nice');
    expect([store.reading(), store.refused()]).toEqual(['', null]);
    expect(await store.create()).toBe(false);
    expect(store.refused()).not.toBeNull();
    store.type('keep the same artist at least 90 min apart');
    expect(store.refused()).toBeNull();
    expect(await store.create()).toBe(true);
    expect(server.asked('createRule')).toMatchObject([{ body: { shape: 'apart', tag: 'artist', amount: 5400 } }]);
    expect(store.reading()).toBe('');
  });

  it('moves a card by what it then is, and never makes a must of what can be a wish alone', () => {
    const { store, server, told } = board(rule('must'), WISH, RESTING, AT_LEAST);
    store.move(rule('must'), 'must');
    store.move(rule('must'), 'wish');
    store.move(WISH, 'must');
    store.move(WISH, 'resting');
    store.move(RESTING, 'must');
    store.move(AT_LEAST, 'must');
    expect(server.asked('patchRule').map(({ address, body }) => [address['id'], body])).toEqual([
      ['must', { revision: 1, resting: false, strength: 'soft', rank: 1 }],
      ['wish', { revision: 1, resting: false, strength: 'hard', rank: 0 }],
      ['wish', { revision: 1, resting: true }],
      ['resting', { revision: 1, resting: false, strength: 'hard', rank: 0 }],
    ]);
    expect(told).toEqual([expect.stringContaining('can be a wish only')]);
  });

  it.each([
    [rule('a'), 'wish'],
    [WISH, 'resting'],
    [RESTING, 'must'],
    [{ ...AT_LEAST, resting: true }, 'wish'],
  ])('goes from column to column by key', (one, to) => expect(nextColumn(one)).toBe(to));

  it('tells that a rule was changed by somebody else', async () => {
    const { store, server, told, settle } = board(WISH);
    server.answers['patchRule'] = () => Promise.reject(new Error('Somebody else changed this rule.'));
    store.save(WISH, { amount: 60 });
    await settle();
    expect(told).toEqual(['Somebody else changed this rule.']);
  });
});
