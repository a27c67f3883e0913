/// <reference lib="webworker" />
import {
  LogInspector,
  PlayNeighbours,
  StationModel,
  type DailyLog,
  type Neighbours,
  type StationData,
} from '@fuller/core';
import { answerQuestions } from '../shared/worker-calls';
import type { DeskQuestion } from './desk-engine';

let data: StationData | null = null;
let model: StationModel | null = null;
let inspected: { readonly key: number; readonly log: DailyLog; readonly inspector: LogInspector } | null = null;
let around: { readonly key: number; readonly neighbours: PlayNeighbours } | null = null;

function inspectorOf(key: number, log: DailyLog | null): LogInspector {
  if (inspected?.key === key) return inspected.inspector;
  if (!model || !log) throw new Error('The desk has not begun.');
  inspected = { key, log, inspector: inspected?.inspector.moved(log) ?? new LogInspector(model, log) };
  return inspected.inspector;
}

function neighboursOf(key: number, log: DailyLog | null): PlayNeighbours {
  inspectorOf(key, log);
  if (around?.key === key) return around.neighbours;
  around = { key, neighbours: new PlayNeighbours(model!, inspected!.log) };
  return around.neighbours;
}

/** The engine beside the log desk: judges logs without asking the server. */
answerQuestions((question: DeskQuestion) => {
  switch (question.ask) {
    case 'begin':
      data = question.data;
      model = new StationModel(data);
      inspected = around = null;
      return null;
    case 'turn off': {
      // What is worked out from items and plays is shared with the model before.
      const { rulesOff } = question;
      if (data) model = new StationModel({ ...data, rules: data.rules.filter(({ id }) => !rulesOff.includes(id)) });
      inspected = around = null;
      return null;
    }
    case 'candidates':
      return inspectorOf(question.key, question.log).candidates(question.entryId);
    case 'strains':
      return inspectorOf(question.key, question.log).strains();
    case 'mends': {
      const inspector = inspectorOf(question.key, question.log);
      const { entryId, hourIndex, nowMs } = question;
      return { swaps: inspector.swapPartners(entryId, nowMs), best: inspector.bestMend(hourIndex, nowMs) };
    }
    case 'plays around': {
      const neighbours = neighboursOf(question.key, question.log);
      const placed = ({ before, after }: Neighbours) => ({
        before: before && { ...before, ...neighbours.placeOf(before) },
        after: after && { ...after, ...neighbours.placeOf(after) },
      });
      return question.items.map(({ itemId, atMs }) => {
        const { item, artist } = neighbours.around(itemId, atMs);
        return { item: placed(item), artist: placed(artist) };
      });
    }
  }
});
