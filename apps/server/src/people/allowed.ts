import type { Right } from '@fuller/contracts';
import { FullerError } from '../errors.js';
import type { Caller } from './caller.js';

/** Throws SIGN_IN for somebody who has not signed in, and FORBIDDEN for a right that is not theirs. */
export function mustBeAllowed(caller: Caller, right: Right, stationId: string | null): void {
  if (caller.may(right, stationId)) return;
  if (!caller.may('own')) throw new FullerError('SIGN_IN', 'Sign in first.');
  if (caller.mustChange) throw new FullerError('FORBIDDEN', 'Change your password first.');
  throw new FullerError('FORBIDDEN', `Your role does not include this (right “${right}”).`);
}
