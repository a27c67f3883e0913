/** Who asks: a person (null until there are accounts) at a browser tab or program, and the station it is about. */
export interface Actor {
  readonly personId: string | null;
  readonly clientId: string;
  /** Null where nothing of a single station is asked. */
  readonly stationId: string | null;
}

/** One that works on a station. */
export interface StationActor extends Actor {
  readonly stationId: string;
}

/** A program that works on a station without anybody asking it to: the command line, the demo, a watched folder. */
export function programAt(stationId: string, clientId: string): StationActor {
  return { personId: null, clientId, stationId };
}
