import type { IconName } from '../shared/ui/icon';

export interface Place {
  readonly path: string;
  readonly word: string;
  readonly icon: IconName;
}

/** The places in working order; `g` and the number leads to one, 0 to the tenth. */
export const PLACES: readonly Place[] = [
  { path: 'library', word: 'Library', icon: 'library' },
  { path: 'rotation', word: 'Rotation', icon: 'rotation' },
  { path: 'clocks', word: 'Clocks', icon: 'clocks' },
  { path: 'week', word: 'Week', icon: 'week' },
  { path: 'rules', word: 'Rules', icon: 'rules' },
  { path: 'breaks', word: 'Breaks', icon: 'breaks' },
  { path: 'logs', word: 'Logs', icon: 'logs' },
  { path: 'hand-over', word: 'Hand-over', icon: 'handOver' },
  { path: 'on-air', word: 'On air', icon: 'onAir' },
  { path: 'insight', word: 'Insight', icon: 'insight' },
];
