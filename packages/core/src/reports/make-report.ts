import { artistsReport, categoriesReport, songsReport } from './plays-reports.js';
import { endingsReport } from './endings-report.js';
import type { ReportGround } from './ground.js';
import { hoursReport } from './hours-report.js';
import { mixOverDayReport, mixOverWeeksReport } from './mix-reports.js';
import type { Report } from './report.js';
import { requestsReport } from './requests-report.js';
import { restReport } from './rest-report.js';
import { sponsorsReport } from './sponsors-report.js';
import { strainsReport } from './strains-report.js';
import { timeReport } from './time-report.js';
import { turnoverReport } from './turnover-report.js';

/** The reports there are. */
export const REPORT_KINDS = [
  'songs',
  'artists',
  'categories',
  'rest',
  'turnover',
  'hours',
  'mix-day',
  'mix-weeks',
  'time',
  'strains',
  'endings',
  'sponsors',
  'requests',
] as const;
export type ReportKind = (typeof REPORT_KINDS)[number];

/** How a report is called. */
export const REPORT_NAMES: Readonly<Record<ReportKind, string>> = {
  songs: 'Plays per song',
  artists: 'Plays per artist',
  categories: 'Plays per category',
  rest: 'Rest',
  turnover: 'Turnover against plan',
  hours: 'Hours by days',
  'mix-day': 'Mix over the day',
  'mix-weeks': 'Mix over weeks',
  time: 'Time on air',
  strains: 'Strains and open slots',
  endings: 'Hour endings',
  sponsors: 'Sponsors',
  requests: 'Requests',
};

/** What some reports are asked besides range and hours. */
export interface ReportOptions {
  /** For hours by days: a category; null for every song. */
  readonly categoryId: string | null;
  /** For the mix: a tag family by its name; null takes the first there is. */
  readonly family: string | null;
}

/** Makes a report. A tag family that is gone gives way to the first there is. */
export function makeReport(kind: ReportKind, ground: ReportGround, options: ReportOptions): Report {
  const { families } = ground.names;
  const family = families.find(({ name }) => name === options.family) ?? families[0] ?? NO_FAMILY;
  switch (kind) {
    case 'songs':
      return songsReport(ground);
    case 'artists':
      return artistsReport(ground);
    case 'categories':
      return categoriesReport(ground);
    case 'rest':
      return restReport(ground);
    case 'turnover':
      return turnoverReport(ground);
    case 'hours':
      return hoursReport(ground, options.categoryId);
    case 'mix-day':
      return mixOverDayReport(ground, family);
    case 'mix-weeks':
      return mixOverWeeksReport(ground, family);
    case 'time':
      return timeReport(ground);
    case 'strains':
      return strainsReport(ground);
    case 'endings':
      return endingsReport(ground);
    case 'sponsors':
      return sponsorsReport(ground);
    case 'requests':
      return requestsReport(ground);
  }
}

const NO_FAMILY = { name: 'Tags', values: [] };
