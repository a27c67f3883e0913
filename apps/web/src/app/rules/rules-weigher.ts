import {
  addDays,
  BackTest,
  headroomOf,
  relationsOf,
  StationModel,
  weekDemand,
  type Rule,
  type StationData,
  type WeekDemand,
} from '@fuller/core';
import type { RulesQuestion, Weighed } from './rules-engine';

interface Ground {
  readonly model: StationModel;
  readonly demand: WeekDemand;
  readonly date: string;
}

/** A rule that makes the model keep the tags that only some rules look at. */
const looksAt = (tag: string): Rule => ({
  id: `looks at ${tag}`,
  shape: 'streak',
  tag,
  value: null,
  followedBy: null,
  amount: 1000,
  windowSeconds: null,
  exceptions: [],
  strength: 'soft',
  rank: 1,
  resting: true,
  note: '',
  places: [],
});

/** Holds rules against the week, the library and what has played. */
export class RulesWeigher {
  private ground: Ground | null = null;
  private tests = new Map<number, BackTest>();
  /** What rules came to, by their text and the days; most of a board stays as it is when one card changes. */
  private known = new Map<string, Omit<Weighed, 'relations'>>();

  answer(question: RulesQuestion): Weighed | null {
    return question.ask === 'begin'
      ? this.begin(question.data, question.date)
      : this.weigh(question.rule, question.others, question.days);
  }

  private begin(data: StationData, date: string): null {
    const model = new StationModel({
      ...data,
      rules: [...data.rules, looksAt('category'), looksAt('limited album'), looksAt('limited set')],
    });
    this.ground = { model, demand: weekDemand(model), date };
    this.tests = new Map();
    this.known = new Map();
    return null;
  }

  private weigh(rule: Rule, others: readonly Rule[], days: number): Weighed {
    const { ground } = this;
    if (!ground) throw new Error('The rules have nothing to be held against yet.');
    const key = `${days} ${JSON.stringify(rule)}`;
    const known = this.known.get(key) ?? {
      headroom: headroomOf(ground.model, ground.demand, rule),
      backTest: this.backTest(ground, days).count(rule),
    };
    this.known.set(key, known);
    return { ...known, relations: relationsOf(rule, others) };
  }

  private backTest({ model, date }: Ground, days: number): BackTest {
    const known = this.tests.get(days);
    if (known) return known;
    const plays = [...model.data.history].sort((a, b) => a.startMs - b.startMs);
    const test = new BackTest(model, plays, addDays(date, -days), addDays(date, -1));
    this.tests.set(days, test);
    return test;
  }
}
