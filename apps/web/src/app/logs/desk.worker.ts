/// <reference lib="webworker" />
import { LogInspector, StationModel, type DailyLog } from '@fuller/core';
import type { DeskAnswer, DeskQuestion } from './desk-engine';

let model: StationModel | null = null;
let inspected: { readonly key: number; readonly inspector: LogInspector } | null = null;

function inspectorOf(key: number, log: DailyLog | null): LogInspector {
  if (inspected?.key === key) return inspected.inspector;
  if (!model || !log) throw new Error('The desk has not begun.');
  inspected = { key, inspector: new LogInspector(model, log) };
  return inspected.inspector;
}

/** The engine beside the log desk: judges logs without asking the server. */
addEventListener('message', ({ data: question }: MessageEvent<DeskQuestion>) => {
  const answer = (value: DeskAnswer): void => postMessage(value);
  try {
    if (question.ask === 'begin') {
      model = new StationModel(question.data);
      inspected = null;
      answer({ id: question.id, value: null });
      return;
    }
    const inspector = inspectorOf(question.key, question.log);
    const value = question.ask === 'candidates' ? inspector.candidates(question.entryId) : inspector.strains();
    answer({ id: question.id, value });
  } catch (error) {
    answer({ id: question.id, error: error instanceof Error ? error.message : String(error) });
  }
});
