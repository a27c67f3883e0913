/** A named stretch of one or more hours with a start, an end and its own clocks. */
export interface Show {
  readonly id: string;
  readonly name: string;
  readonly colour: string;
  /** One clock after the other from its start; the last runs on where the show is longer. */
  readonly clockIds: readonly string[];
  /** How long it is as a rule, in minutes, a multiple of five. */
  readonly minutes: number;
  readonly start: 'hard' | 'soft';
  readonly end: 'exact' | 'soft';
  /** How far from its mark an exact end may be, milliseconds. */
  readonly toleranceMs: number;
  /** What follows where nothing is planned: the default clock, or silence for another source. */
  readonly after: 'next' | 'silence';
  /** Who may take over the air within it; empty where it is not live. */
  readonly presenter: string;
  /** Audio that announces the show. */
  readonly announcementId: string | null;
  /** Clocks whose lines are put before and after the show, and at the top of each of its hours. */
  readonly openerId: string | null;
  readonly closerId: string | null;
  readonly hourOpenerId: string | null;
}

/** What a station puts before and after all its hours and shows; ids of clocks whose lines are taken. */
export interface Framing {
  readonly hourOpenerId: string | null;
  readonly hourCloserId: string | null;
  readonly showOpenerId: string | null;
  readonly showCloserId: string | null;
  /** Its moments stand in every hour of every clock. */
  readonly momentsId: string | null;
}

/** Nothing opens or closes hours and shows. */
export const NO_FRAMING: Framing = {
  hourOpenerId: null,
  hourCloserId: null,
  showOpenerId: null,
  showCloserId: null,
  momentsId: null,
};

/** The longest show, minutes. */
export const LONGEST_SHOW_MINUTES = 1440;
