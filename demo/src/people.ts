import { randomBytes } from 'node:crypto';
import type { RoleAt } from '@fuller/contracts';
import type { Services } from '@fuller/server';

const PEOPLE: readonly { readonly name: string; readonly roles: RoleAt[] }[] = [
  { name: 'Nell Harrow', roles: [{ stationId: null, role: 'director', showIds: [] }] },
  { name: 'Tom Wherry', roles: [{ stationId: null, role: 'traffic', showIds: [] }] },
  {
    name: 'Maren Tolley',
    roles: [{ stationId: 'osier-vale', role: 'presenter', showIds: ['show-breakfast', 'show-narrowboat'] }],
  },
  { name: 'Ivo Marsh', roles: [{ stationId: null, role: 'viewer', showIds: [] }] },
];

/** An account of each role. Nobody knows their passwords; a demo signs in to them by one press. */
export async function addPeople({ people }: Services): Promise<void> {
  for (const { name, roles } of PEOPLE) {
    const password = randomBytes(24).toString('base64url');
    await people.create({ personId: null, clientId: 'demo', stationId: null }, { name, password, roles }, true);
  }
}
