import { beforeAll, describe, expect, it } from '@jest/globals';
import type { RuleRow, RulesFile } from '@fuller/contracts';
import { RULE_PRESETS } from '@fuller/core';
import { openPlace } from '../testing/place';
import { rulesGround, weighInProcess } from '../testing/rules-ground';
import { ruleRow as rule } from '../testing/rows';
import { columnsOf, nextColumn } from './columns';
import { RulesEngine } from './rules-engine';
import { presetFile, RulesStore } from './rules.store';

const WISH = rule('wish', { strength: 'soft', rank: 1 });
const RESTING = rule('resting', { resting: true });
const AT_LEAST = rule('least', { shape: 'atLeast', tag: 'Tempo', value: 'slow', strength: 'soft', rank: 1 });
/** Longer than a person pauses. */
const PAUSE = 250;

beforeAll(weighInProcess);

function board(...rules: RuleRow[]) {
  return openPlace(RulesStore, {
    catalogue: { rules, families: [{ id: 'Tempo', name: 'Tempo', values: ['slow'], codes: {} }] },
    answers: { rulesGround },
    providers: [RulesEngine],
  });
}

describe('the board of rules', () => {
  it('has musts, wishes of each rank and what is resting, whatever a resting rule was before', () => {
    const { store } = board(
      rule('must'),
      WISH,
      RESTING,
      rule('old-wish', { strength: 'soft', rank: 9, resting: true }),
    );
    const shown = () => store.columns().map(({ key, rules }) => [key, rules.map(({ id }) => id)]);
    expect(shown()).toEqual([
      [0, ['must']],
      [1, ['wish']],
      [2, []],
      [3, []],
      ['resting', ['resting', 'old-wish']],
    ]);
    store.addColumn();
    expect(store.columns().map(({ name }) => name)).toEqual([
      'Must',
      'First wish',
      'Second wish',
      'Third wish',
      'Wish 4',
      'Resting',
    ]);
    expect(columnsOf([rule('late', { strength: 'soft', rank: 6 })], 3)).toHaveLength(8);
  });

  it('says how a sentence is understood, and why it is none only when it was tried', async () => {
    const { store, server } = board();
    store.type('keep the same artist at least 90 min apart');
    expect(store.reading()).toMatch(/^Understood: .*artist.*90 min/);
    store.type('play nice');
    expect([store.reading(), store.refused()]).toEqual(['', null]);
    expect(await store.create()).toBe(false);
    expect(store.refused()).not.toBeNull();
    store.type('at least 2 slow an hour');
    expect(await store.create()).toBe(true);
    expect(server.asked('createRule')).toMatchObject([
      { body: { shape: 'atLeast', amount: 2, strength: 'soft', rank: 1 } },
    ]);
    expect(store.reading()).toBe('');
  });

  it('moves a card by what it then is, and never makes a must of what can be a wish alone', () => {
    const { store, server, told } = board(rule('must'), WISH, RESTING, AT_LEAST);
    store.move(rule('must'), 0);
    store.move(rule('must'), 2);
    store.move(WISH, 0);
    store.move(WISH, 'resting');
    store.move(RESTING, 0);
    store.move(AT_LEAST, 0);
    expect(server.asked('patchRule').map(({ address, body }) => [address['id'], body])).toEqual([
      ['must', { revision: 1, resting: false, strength: 'soft', rank: 2 }],
      ['wish', { revision: 1, resting: false, strength: 'hard', rank: 0 }],
      ['wish', { revision: 1, resting: true }],
      ['resting', { revision: 1, resting: false, strength: 'hard', rank: 0 }],
    ]);
    expect(told).toEqual([expect.stringContaining('can be a wish only')]);
  });

  it.each([
    [rule('a'), 1, 1],
    [rule('a'), -1, 'resting'],
    [{ ...WISH, rank: 3 }, 1, 'resting'],
    [RESTING, 1, 0],
    [{ ...AT_LEAST, resting: true }, 1, 1],
    [AT_LEAST, -1, 'resting'],
  ] as const)('goes from column to column by key', (one, step, to) =>
    expect(nextColumn(one, columnsOf([], 3), step)).toBe(to),
  );

  it('copies a rule to one place alone', async () => {
    const { store, server } = board(rule('a', { note: 'Calm', places: [{ kind: 'show', id: 's' }] }));
    await store.copyTo(rule('a', { note: 'Calm' }), { kind: 'clock', id: 'day' });
    expect(server.asked('createRule')).toMatchObject([
      { body: { note: 'Calm', places: [{ kind: 'clock', id: 'day' }] } },
    ]);
    expect(server.asked('createRule')[0]!.body).not.toHaveProperty('id');
  });

  it('tells that a rule was changed by somebody else', async () => {
    const { store, server, told, settle } = board(WISH);
    server.answers['patchRule'] = () => Promise.reject(new Error('Somebody else changed this rule.'));
    store.save(WISH, { amount: 60 });
    await settle();
    expect(told).toEqual(['Somebody else changed this rule.']);
  });
});

describe('what rules come to', () => {
  it('is told of each on the board, and again when the library changes', async () => {
    const { store, server, events, settle } = board(rule('a'), rule('b', { amount: 3600 }));
    await settle(PAUSE);
    const { a, b } = store.weighed();
    // Ten artists and twelve slots an hour: 90 minutes cannot be kept.
    expect(a!.headroom).toMatchObject({ state: 'impossible', capacity: 10, measure: 'different values' });
    expect(a!.backTest).toMatchObject({ breaks: 1, days: 7, places: [{ date: '2026-11-23', itemId: 'song13' }] });
    expect([a!.relations, b!.relations]).toEqual([[], [{ kind: 'follows', otherId: 'a' }]]);
    expect(store.known().items.get('song13')).toEqual({ title: 'Title 13', artist: 'Artist 3' });
    expect(store.valueName()('artist', 'artist3')).toBe('Artist 3');
    events.next({ type: 'changed', stationId: 'vale', clientId: 'other', what: ['library'], dataRevision: 2 });
    await settle(PAUSE);
    expect(server.asked('rulesGround')).toHaveLength(2);
  });

  it('is told of a sentence while it is typed, with the trap it may be', async () => {
    const { store, settle } = board();
    store.type('at most 2 slow an hour');
    await settle(PAUSE);
    expect(store.typedWeighed()?.headroom.trap).toMatchObject({
      withValue: 5,
      items: 20,
      askedPerHour: 3,
      allowedPerHour: 2,
    });
    // The figures of one sentence never stand under another, not even while that is still being weighed.
    store.type('at most 3 slow an hour');
    expect(store.typedWeighed()).toBeNull();
    await settle(PAUSE);
    expect(store.typedWeighed()).not.toBeNull();
    store.type('at most');
    expect(store.typedWeighed()).toBeNull();
  });

  it('says so where it cannot be worked out', async () => {
    const { store, server, settle } = board(rule('a'));
    server.answers['rulesGround'] = () => Promise.reject(new Error('The server does not answer.'));
    await settle(PAUSE);
    expect([store.problem(), store.weighed()]).toEqual(['The server does not answer.', {}]);
  });

  it('is told of a preset before it is taken', async () => {
    const { store, server } = board();
    const [light] = RULE_PRESETS;
    const weighed = await store.weighPreset(light!);
    expect(weighed.map((one) => one?.headroom.state)).toEqual(['impossible', 'impossible']);
    server.answers['takeRulesFile'] = () => Promise.reject(new Error('Rule 1: no.'));
    expect(await store.take(presetFile(light!), true)).toBe('Rule 1: no.');
    const { file, replace } = server.asked('takeRulesFile')[0]!.body as { file: RulesFile; replace: boolean };
    expect([replace, file.rules.map(({ strength, rank }) => [strength, rank])]).toEqual([
      true,
      [
        ['must', undefined],
        ['must', undefined],
      ],
    ]);
  });
});
