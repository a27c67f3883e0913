import type { StationData } from '@fuller/core';

/** What a station's days are made from, apart from plays and logs. */
export type Ground = Omit<StationData, 'history' | 'nextLog'>;
