import { formatAirTime, formatDuration, type LogEntry } from '@fuller/core';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces.js';

const [INK, QUIET, LINE, CHALK] = ['#1E2A30', '#5B676C', '#DDD6C6', '#F5F2EA'];

/** `sheet`: a page an hour with room to write, for the studio. `list`: everything in small rows. */
export type LogLayout = 'sheet' | 'list';

/** One row of a log as it is printed. */
export interface PrintedEntry {
  readonly kind: LogEntry['kind'];
  readonly startMs: number;
  readonly durationMs: number;
  /** Code of its category, or what else it is. */
  readonly code: string;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  readonly introMs: number | null;
  readonly note: string;
  /** What it strains, in words. */
  readonly marks: readonly string[];
}

export interface PrintedHour {
  readonly localHour: number;
  readonly clockName: string;
  readonly showName: string;
  /** How far it ends beyond its mark, milliseconds. */
  readonly overMs: number;
  readonly entries: readonly PrintedEntry[];
}

export interface PrintedLog {
  readonly station: string;
  /** As people say it: `Monday 23 November 2026`. */
  readonly day: string;
  readonly timeZone: string;
  readonly printed: string;
  readonly hours: readonly PrintedHour[];
}

/** A log, or some hours of it, for paper. */
export function logDocument(log: PrintedLog, layout: LogLayout): TDocumentDefinitions {
  const shown = log.hours.filter(({ entries }) => entries.length > 0);
  const content: Content[] =
    shown.length === 0
      ? [{ text: 'There is nothing in these hours.', color: QUIET }]
      : shown.flatMap((hour, n) => [
          hourHead(hour, layout, n > 0),
          layout === 'sheet' ? sheetTable(hour, log.timeZone) : listTable(hour, log.timeZone),
        ]);
  return {
    info: { title: `${log.station}, ${log.day}` },
    pageSize: 'A4',
    pageMargins: [40, 64, 40, 48],
    header: {
      margin: [40, 24, 40, 0],
      columns: [
        { text: [{ text: log.station, bold: true }, `   ${log.day}`], fontSize: 11 },
        { text: layout === 'sheet' ? 'Studio sheet' : 'Log', alignment: 'right', color: QUIET, fontSize: 9 },
      ],
    },
    footer: (page, pages) => ({
      margin: [40, 12, 40, 0],
      fontSize: 8,
      color: QUIET,
      columns: [{ text: `Printed ${log.printed}` }, { text: `Page ${page} of ${pages}`, alignment: 'right' }],
    }),
    content,
  };
}

function hourHead(hour: PrintedHour, layout: LogLayout, later: boolean): Content {
  const off =
    Math.abs(hour.overMs) < 1000
      ? 'ends on the hour'
      : `ends ${formatDuration(Math.abs(hour.overMs))} ${hour.overMs > 0 ? 'over' : 'under'}`;
  const names = [hour.showName, hour.clockName].filter(Boolean).join(' · ') || 'no clock';
  return {
    ...(layout === 'sheet' && later ? { pageBreak: 'before' as const } : {}),
    margin: [0, layout === 'list' && later ? 10 : 0, 0, 4],
    columns: [
      {
        width: '*',
        text: [
          { text: `${String(hour.localHour).padStart(2, '0')}:00`, bold: true, fontSize: layout === 'sheet' ? 18 : 11 },
          { text: `   ${names}`, color: QUIET },
        ],
      },
      { width: 'auto', text: off, color: QUIET, fontSize: 8.5, margin: [0, layout === 'sheet' ? 8 : 2, 0, 0] },
    ],
  };
}

const time = (ms: number, zone: string): TableCell => ({ text: formatAirTime(ms, zone), noWrap: true });
const length = (ms: number | null): TableCell => ({
  text: ms ? formatDuration(ms) : '',
  alignment: 'right',
  noWrap: true,
});
const head = (texts: readonly string[]): TableCell[] =>
  texts.map((text) => ({
    text,
    fontSize: 8,
    color: QUIET,
    ...(/Length|Intro/.test(text) ? { alignment: 'right' as const } : {}),
  }));

/** Large rows, an empty column to write in, and a line for what is noted. */
function sheetTable(hour: PrintedHour, zone: string): Content {
  const rows = hour.entries.map((entry): TableCell[] => {
    if (entry.kind === 'note')
      return [
        { text: '' },
        { text: entry.title, colSpan: 3, italics: true, color: QUIET, margin: [0, 3] },
        {},
        {},
        { text: '' },
      ];
    const title: Content[] = [
      { text: entry.title, bold: true, fontSize: 11.5 },
      ...(entry.artist ? [{ text: entry.artist, color: INK }] : []),
      ...extras(entry),
    ];
    return [
      { ...(time(entry.startMs, zone) as object), fontSize: 11, margin: [0, 3] } as TableCell,
      { stack: title, margin: [0, 2] },
      { ...(length(entry.introMs) as object), margin: [0, 3] } as TableCell,
      { ...(length(entry.durationMs) as object), margin: [0, 3] } as TableCell,
      { text: '' },
    ];
  });
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [54, '*', 34, 38, 150],
      body: [head(['Airs', 'Title and artist', 'Intro', 'Length', 'Notes from the studio']), ...rows],
    },
    layout: {
      hLineWidth: (line) => (line === 0 ? 0 : 0.5),
      vLineWidth: (line) => (line === 4 ? 0.5 : 0),
      hLineColor: () => LINE,
      vLineColor: () => LINE,
      paddingLeft: () => 4,
      paddingRight: () => 4,
    },
  };
}

/** One small row an entry. */
function listTable(hour: PrintedHour, zone: string): Content {
  const rows = hour.entries.map((entry): TableCell[] => {
    if (entry.kind === 'note')
      return [
        { text: '' },
        { text: '' },
        { text: entry.title, colSpan: 5, italics: true, color: QUIET },
        {},
        {},
        {},
        {},
      ];
    return [
      time(entry.startMs, zone),
      { text: entry.code, color: QUIET },
      ...titleCells(entry),
      length(entry.introMs),
      length(entry.durationMs),
    ];
  });
  return {
    fontSize: 8,
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [40, 22, '*', 128, 96, 26, 30],
      body: [head(['Airs', '', 'Title', 'Artist', 'Album', 'Intro', 'Length']), ...rows],
    },
    layout: {
      hLineWidth: (line) => (line === 0 ? 0 : 0.4),
      vLineWidth: () => 0,
      hLineColor: () => LINE,
      fillColor: (row) => (row === 0 ? CHALK : null),
      paddingTop: () => 1.5,
      paddingBottom: () => 1,
      paddingLeft: () => 3,
      paddingRight: () => 3,
    },
  };
}

/** What has neither artist nor album has the width of all three. */
function titleCells(entry: PrintedEntry): TableCell[] {
  const stack: Content[] = [{ text: entry.title, bold: true }, ...extras(entry)];
  if (!entry.artist && !entry.album) return [{ stack, colSpan: 3 }, {}, {}];
  return [{ stack }, { text: entry.artist }, { text: entry.album, color: QUIET }];
}

function extras({ note, marks }: PrintedEntry): Content[] {
  return [
    ...marks.map((text) => ({ text: `! ${text}`, fontSize: 8, color: '#A23B2A' })),
    ...(note ? [{ text: note, fontSize: 8.5, color: QUIET }] : []),
  ];
}
