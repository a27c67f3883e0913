/** Rows a station sees: those of the group, and its own. */
export function visibleTo(stationId: string): { $or: [{ scope: 'group' }, { stationId: string }] } {
  return { $or: [{ scope: 'group' }, { stationId }] };
}
