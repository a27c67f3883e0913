/// <reference lib="webworker" />
import { rankCandidates, StationModel, strainsOf } from '@fuller/core';
import type { DeskAnswer, DeskQuestion } from './desk-engine';

let model: StationModel | null = null;

/** The engine beside the log desk: judges logs without asking the server. */
addEventListener('message', ({ data: question }: MessageEvent<DeskQuestion>) => {
  const answer = (value: DeskAnswer): void => postMessage(value);
  try {
    if (question.ask === 'begin') model = new StationModel(question.data);
    if (!model) throw new Error('The desk has not begun.');
    if (question.ask === 'candidates') answer({ id: question.id, value: rankCandidates(model, question.log, question.entryId) });
    else if (question.ask === 'strains') answer({ id: question.id, value: strainsOf(model, question.log) });
    else answer({ id: question.id, value: null });
  } catch (error) {
    answer({ id: question.id, error: error instanceof Error ? error.message : String(error) });
  }
});
