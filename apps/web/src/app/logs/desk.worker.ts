/// <reference lib="webworker" />
import { LogInspector, outlookOf, StationModel, type DailyLog, type StationData } from '@fuller/core';
import { answerQuestions } from '../shared/worker-calls';
import type { DeskQuestion } from './desk-engine';

let data: StationData | null = null;
let model: StationModel | null = null;
let inspected: { readonly key: number; readonly inspector: LogInspector } | null = null;

function inspectorOf(key: number, log: DailyLog | null): LogInspector {
  if (inspected?.key === key) return inspected.inspector;
  if (!model || !log) throw new Error('The desk has not begun.');
  inspected = { key, inspector: new LogInspector(model, log) };
  return inspected.inspector;
}

/** The engine beside the log desk: judges logs without asking the server. */
answerQuestions((question: DeskQuestion) => {
  switch (question.ask) {
    case 'begin':
      data = question.data;
      model = new StationModel(data);
      inspected = null;
      return null;
    case 'turn off': {
      // What is worked out from items and plays is shared with the model before.
      const { rulesOff } = question;
      if (data) model = new StationModel({ ...data, rules: data.rules.filter(({ id }) => !rulesOff.includes(id)) });
      inspected = null;
      return null;
    }
    case 'candidates':
      return inspectorOf(question.key, question.log).candidates(question.entryId);
    case 'strains':
      return inspectorOf(question.key, question.log).strains();
    case 'outlook':
      if (!model) throw new Error('The desk has not begun.');
      return outlookOf(model, question.log, question.nowMs);
  }
});
