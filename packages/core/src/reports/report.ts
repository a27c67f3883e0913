/** What the numbers of a column or a picture are. */
export const REPORT_UNITS = ['count', 'seconds', 'hours', 'days', 'percent'] as const;
export type ReportUnit = (typeof REPORT_UNITS)[number];

/** Where a row or a mark leads: to what is behind its number. */
export const LINK_TARGETS = ['item', 'artist', 'category', 'log', 'rule', 'sponsor', 'requests', 'filter'] as const;
export interface ReportLink {
  readonly to: (typeof LINK_TARGETS)[number];
  /** An id, a date, a name or a search, as its target wants it. */
  readonly id: string;
}

export interface ReportColumn {
  readonly label: string;
  readonly unit: ReportUnit | 'text';
}

export interface ReportRow {
  readonly cells: readonly (string | number | null)[];
  readonly link: ReportLink | null;
}

/** Numbers that are drawn alike: one colour of a picture. */
export interface ReportSeries {
  readonly name: string;
  /** A category's own colour; null for one of the house's. */
  readonly colour: string | null;
  readonly values: readonly (number | null)[];
  /** Where its marks lead whose place leads nowhere. */
  readonly link?: ReportLink;
}

/** The picture of a report; every mark has its link at the same place. */
export type ReportPicture =
  | {
      readonly shape: 'bars' | 'lines' | 'stack';
      readonly unit: ReportUnit;
      readonly labels: readonly string[];
      readonly series: readonly ReportSeries[];
      readonly links: readonly (ReportLink | null)[];
    }
  | {
      readonly shape: 'heat';
      readonly unit: ReportUnit;
      readonly rows: readonly string[];
      readonly columns: readonly string[];
      readonly values: readonly (readonly (number | null)[])[];
      readonly links: readonly (readonly (ReportLink | null)[])[];
    };

/** A report: what it says, its picture and its numbers. */
export interface Report {
  /** What it shows, in a sentence or two. */
  readonly sentence: string;
  readonly picture: ReportPicture;
  readonly columns: readonly ReportColumn[];
  readonly rows: readonly ReportRow[];
  /** Whether there was nothing to count. */
  readonly empty: boolean;
}
