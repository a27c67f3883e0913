import type { ReportKind } from '@fuller/core';

/** The reports in the order in which they are offered, with what each tells. */
export const REPORT_GROUPS: readonly {
  readonly name: string;
  readonly reports: readonly { readonly kind: ReportKind; readonly tells: string }[];
}[] = [
  {
    name: 'Plays',
    reports: [
      { kind: 'songs', tells: 'Planned and aired, and what stayed silent' },
      { kind: 'artists', tells: 'Every credit counts' },
      { kind: 'categories', tells: 'As each play was picked' },
      { kind: 'hours', tells: 'When songs play through the week' },
    ],
  },
  {
    name: 'Rotation',
    reports: [
      { kind: 'rest', tells: 'Between two plays of a song' },
      { kind: 'turnover', tells: 'Once through each category' },
    ],
  },
  {
    name: 'Sound',
    reports: [
      { kind: 'mix-day', tells: 'Shares of a tag, hour by hour' },
      { kind: 'mix-weeks', tells: 'Shares of a tag, week by week' },
      { kind: 'time', tells: 'Music, speech, imaging, commercials' },
    ],
  },
  {
    name: 'Logs',
    reports: [
      { kind: 'strains', tells: 'By rule, day by day' },
      { kind: 'endings', tells: 'How far hours end from their mark' },
    ],
  },
  {
    name: 'Partners and listeners',
    reports: [
      { kind: 'sponsors', tells: 'Promised, planned and aired' },
      { kind: 'requests', tells: 'What became of them' },
    ],
  },
];
