import { expect, it } from '@jest/globals';
import fc from 'fast-check';
import { findViolations } from '../engine/score.js';
import { generateDay } from '../generate/generate-day.js';
import { slotsOf, type DailyLog } from '../log/daily-log.js';
import { applyEdit, mustApply } from '../log/apply-edit.js';
import { byHand, type HandEdit } from '../log/log-edit.js';
import { isNextDay } from '../station/log-instance.js';
import { StationModel } from '../station/station-model.js';
import { apart, DATE, smallStation } from '../testing/small-station.js';
import { addDays } from '../time/local-day.js';
import { asItStands, LogInspector } from './inspect-log.js';

const before = smallStation();
const yesterday = generateDay(before, { date: addDays(DATE, -1), seed: 3, previous: null, only: 'all' }).log;
const tomorrow = generateDay(before, { date: addDays(DATE, 1), seed: 4, previous: null, only: 'all' }).log;
const data = smallStation({
  rules: [
    apart('artist', 5400),
    apart('title', 86_400),
    apart('album', 7200, { exceptions: [{ kind: 'category', id: 'gold', amount: 3600 }] }),
  ],
  history: new StationModel(before).plays(yesterday),
  nextLog: tomorrow,
});
const model = new StationModel(data);
const { log: made } = generateDay(data, { date: DATE, seed: 1, previous: null, only: 'all' });
const slots = slotsOf(made);

/** Puts items anywhere, whatever they break. */
const spoiled = (moves: readonly (readonly [number, number, boolean])[]): DailyLog =>
  moves.reduce((log, [slot, item, locked]) => {
    const entryId = slots[slot % slots.length]!.id;
    const itemId = data.items[item % data.items.length]!.id;
    const put = mustApply(log, { type: 'replace', entryId, itemId, origin: 'hand' });
    return locked ? mustApply(put, { type: 'lock', entryId, locked }) : put;
  }, made);

it('strains are what the whole instance of the log breaks, whatever was put where', () => {
  let most = 0;
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(400), fc.nat(119), fc.boolean()), { minLength: 1, maxLength: 25 }).map(
        // An entry that is locked is not changed again.
        (moves) => [...new Map(moves.map((move) => [move[0] % slots.length, move] as const)).values()],
      ),
      (moves) => {
        const log = spoiled(moves);
        const told = new LogInspector(model, log).strains();
        const whole = findViolations(asItStands(model, log).compiled)
          .filter(({ slot }) => !isNextDay(slot))
          .map(({ rule, slot, by }) => ({ ruleId: rule, entryId: slot, by }));
        const key = (one: object): string => JSON.stringify(one);
        expect(told.map(key).sort()).toEqual(whole.map(key).sort());
        most = Math.max(most, told.length);
      },
    ),
    { numRuns: 40, seed: 11 },
  );
  expect(most).toBeGreaterThan(5);
});

it('an inspector that moves on with the log says what a new one says, and does not move where the slots differ', () => {
  const full = generateDay(before, { date: DATE, seed: 2, previous: null, only: 'all' }).log;
  const free = slotsOf(full).slice(0, 60);
  const slot = fc.constantFrom(...free.map(({ id }) => id));
  const edit: fc.Arbitrary<HandEdit> = fc.oneof(
    fc.record({
      type: fc.constant('replace' as const),
      entryId: slot,
      itemId: fc.constantFrom(...data.items.slice(0, 80).map(({ id }) => id)),
    }),
    fc.record({ type: fc.constant('open' as const), entryId: slot }),
    fc.record({ type: fc.constant('swap' as const), entryId: slot, withId: slot }),
    fc.record({ type: fc.constant('note' as const), entryId: slot, note: fc.constantFrom('a', 'b') }),
    fc.record({ type: fc.constant('length' as const), entryId: slot, durationMs: fc.constantFrom(30_000, 500_000) }),
  );
  const told = (of: LogInspector, id: string): unknown => [
    of.strains(),
    of.candidates(id).slice(0, 30),
    of.bestMend(1),
  ];
  let moves = 0;
  fc.assert(
    fc.property(fc.array(edit, { minLength: 1, maxLength: 6 }), slot, (edits, asked) => {
      let inspector = new LogInspector(model, full);
      inspector.candidates(asked);
      let log = full;
      for (const one of edits) {
        const outcome = applyEdit(log, byHand(one));
        if (!outcome.ok) continue;
        log = outcome.log;
        const moved = inspector.moved(log);
        expect(moved).not.toBeNull();
        inspector = moved!;
        moves++;
      }
      expect(told(inspector, asked)).toEqual(told(new LogInspector(model, log), asked));
    }),
    { numRuns: 40 },
  );
  expect(moves).toBeGreaterThan(40);
  const whole = new LogInspector(model, full);
  const id = free[3]!.id;
  const locked = mustApply(full, { type: 'lock', entryId: id, locked: true });
  expect(whole.moved(locked)).toBeNull();
  whole.candidates(id);
  expect(whole.moved(locked)).toBeNull();
  expect(whole.moved(mustApply(full, { type: 'remove', entryId: id }))).toBeNull();
});
