import { foldText, nameKey } from '@fuller/core';
import { newId } from '../ids.js';
import type { Row } from '../store/change-set.js';

/** A music category of a station, to be inserted. */
export function newCategoryRow(
  stationId: string,
  {
    name,
    code,
    ...more
  }: { readonly name: string; readonly code: string; readonly colour: string; readonly position: number },
): Row {
  return {
    ...more,
    id: newId(),
    revision: 1,
    scope: 'station',
    stationId,
    groupId: null,
    name,
    nameKey: nameKey(name),
    code,
    codeKey: foldText(code),
    music: true,
    turnOrder: 'even',
    approvedOnly: false,
  };
}
