import type { ActivityChange, ActivityRow } from '@fuller/contracts';
import { CLIENT_ID } from '../shared/api/api';

const PROGRAMS: Readonly<Record<string, string>> = {
  'command line': 'by the command line',
  'command-line': 'by the command line',
  'watched folder': 'by the watched folder',
  demo: 'when the demo was made',
  'stand-in': 'by the stand-in',
  nightly: 'by the nightly run',
  player: 'by the player',
  requests: 'by the request line',
};

/** Who did something: a person by name, a program, or this or another browser where nobody signs in. */
export function whoDid({ clientId, personName }: Pick<ActivityRow, 'clientId' | 'personName'>): string {
  if (clientId === CLIENT_ID) return personName ? `${personName}, in this tab` : 'in this tab';
  if (personName) return personName;
  return PROGRAMS[clientId] ?? 'in another browser';
}

/** A change of one thing: “Changed the clock Breakfast”. */
export function changeTitle({ did, thing, name }: ActivityChange): string {
  const verb = { made: 'Added', changed: 'Changed', deleted: 'Deleted' }[did];
  return `${verb}: ${thing}${name ? ` “${name}”` : ''}`;
}
