import type { Provider } from '@angular/core';
import type { Right } from '@fuller/contracts';
import { Session } from '../shared/session/session.store';

/** Whoever works in a test: everything is allowed them, or what is named; and the shows they present. */
export function allowed(rights: readonly Right[] | 'all' = 'all', shows: readonly string[] = []): Provider {
  const may = (right: Right): boolean => rights === 'all' || rights.includes(right);
  return { provide: Session, useValue: { may, showsAt: () => shows, isIn: () => true, person: () => null } };
}
