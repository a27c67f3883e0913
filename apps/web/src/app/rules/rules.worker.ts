/// <reference lib="webworker" />
import { answerQuestions } from '../shared/worker-calls';
import type { RulesQuestion } from './rules-engine';
import { RulesWeigher } from './rules-weigher';

const weigher = new RulesWeigher();

/** Rules are weighed beside the board, so that typing never waits. */
answerQuestions((question: RulesQuestion) => weigher.answer(question));
