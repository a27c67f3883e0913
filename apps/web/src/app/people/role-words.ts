import type { Role, RoleAt } from '@fuller/contracts';

export const ROLE_WORDS: Readonly<Record<Role, { readonly word: string; readonly does: string }>> = {
  director: { word: 'Director', does: 'Everything at the station' },
  traffic: { word: 'Traffic', does: 'Imports and places spots, keeps sponsors' },
  presenter: { word: 'Presenter', does: 'Adds and moves items within their own shows' },
  viewer: { word: 'Viewer', does: 'Looks, and changes nothing' },
};

/** What somebody is where: “Director of every station”, “Presenter at Osier Vale Radio”. */
export function rolesWords(roles: readonly RoleAt[], stationName: (id: string) => string): string {
  return roles
    .map(({ stationId, role }) => {
      const { word } = ROLE_WORDS[role];
      return stationId === null ? `${word} at every station` : `${word} at ${stationName(stationId)}`;
    })
    .join(', ');
}
