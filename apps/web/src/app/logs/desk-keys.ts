import type { KeyLine } from '../frame/keys-help';

/** The keys of the log desk, as `?` shows them. */
export const DESK_KEYS: readonly KeyLine[] = [
  { keys: ['↑', '↓'], does: 'move between entries' },
  { keys: ['PgUp', 'PgDn'], does: 'move by a page' },
  { keys: ['Shift', '↑'], does: 'choose several entries; Ctrl with a click chooses one more' },
  { keys: ['Enter'], does: 'candidates for the slot' },
  { keys: ['n'], does: 'next one to review' },
  { keys: ['l'], does: 'lock or unlock' },
  { keys: ['Delete'], does: 'open the slot' },
  { keys: ['Shift', 'Delete'], does: 'remove the entry' },
  { keys: ['s'], does: 'mark for a swap, then swap with the marked one' },
  { keys: ['Alt', '↑'], does: 'move the entry up' },
  { keys: ['Alt', '↓'], does: 'move the entry down' },
  { keys: ['i'], does: 'add an entry before this one' },
  { keys: ['Ctrl', 'C'], does: 'copy; Ctrl X cuts, Ctrl V pastes, into another day too' },
  { keys: ['m'], does: 'write a note' },
  { keys: ['p'], does: 'play the entry; Shift P plays its join to the next' },
  { keys: ['c'], does: 'hide or show the hour; Shift C all hours' },
  { keys: ['f'], does: 'find in this log' },
  { keys: ['w'], does: 'in an attended run: the slot it waits at' },
  { keys: ['x', 'b'], does: 'in an attended run: skip the slot, back to the one before' },
  { keys: ['←', '→'], does: 'the day before, the day after' },
];
