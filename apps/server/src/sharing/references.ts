import { itemOfLine, sourceOf, withSource, type ClockLine, type RulePlace } from '@fuller/core';
import type {
  ClockRecord,
  DatePlanRecord,
  RuleRecord,
  SetListRecord,
  ShowRecord,
  SponsorRecord,
  WeekPlanRecord,
} from '../db/entities/index.js';

/** What a thing can name by its id; a source is a category or a pool. */
export type NamedKind = 'source' | 'clock' | 'setList' | 'show' | 'daypart' | 'item';
/** A thing that another one names. */
export interface Reference {
  readonly kind: NamedKind;
  readonly id: string;
}
/** The id to name in place of another. */
export type Renaming = (kind: NamedKind, id: string) => string;

/** The things that name others, by the name activities know them under. */
export interface NamingRows {
  readonly clock: Pick<ClockRecord, 'lines'>;
  readonly setList: Pick<SetListRecord, 'rows'>;
  readonly rule: Pick<RuleRecord, 'tag' | 'value' | 'followedBy' | 'places' | 'exceptions'>;
  readonly show: Pick<ShowRecord, 'clockIds' | 'announcementId' | 'openerId' | 'closerId' | 'hourOpenerId'>;
  readonly week: Pick<WeekPlanRecord, 'blocks' | 'defaultClockId' | 'framing'>;
  readonly datePlan: Pick<DatePlanRecord, 'blocks'>;
  readonly sponsor: Pick<SponsorRecord, 'promises'>;
  readonly rollingSettings: { readonly loopClockId?: string | null; readonly setListId?: string | null };
}
export type NamingKind = keyof NamingRows;

/** The one place that knows where ids stand in each kind of row: the fields of a row with every id put through `to`. */
const RENAMED: { readonly [K in NamingKind]: (row: NamingRows[K], to: Renaming) => NamingRows[K] } = {
  clock: ({ lines }, to) => ({ lines: lines.map((line) => renamedLine(line, to)) }),
  setList: ({ rows }, to) => ({
    rows: rows.map((row) =>
      'itemId' in row
        ? { ...row, itemId: to('item', row.itemId) }
        : { ...row, categoryId: to('source', row.categoryId) },
    ),
  }),
  rule: ({ tag, value, followedBy, places, exceptions }, to) => {
    const known = (one: string | null | undefined): string | null =>
      one === null || one === undefined ? null : tag === 'category' ? to('source', one) : one;
    const place = <P extends RulePlace>(one: P): P => ({
      ...one,
      id: to(one.kind === 'category' ? 'source' : one.kind, one.id),
    });
    return {
      tag,
      value: known(value),
      followedBy: known(followedBy),
      places: places.map(place),
      exceptions: exceptions.map(place),
    };
  },
  show: ({ clockIds, announcementId, openerId, closerId, hourOpenerId }, to) => ({
    clockIds: clockIds.map((id) => to('clock', id)),
    announcementId: orNull('item', announcementId, to),
    openerId: orNull('clock', openerId, to),
    closerId: orNull('clock', closerId, to),
    hourOpenerId: orNull('clock', hourOpenerId, to),
  }),
  week: ({ blocks, defaultClockId, framing }, to) => ({
    blocks: renamedBlocks(blocks, to),
    defaultClockId: orNull('clock', defaultClockId, to),
    framing: {
      hourOpenerId: orNull('clock', framing.hourOpenerId, to),
      hourCloserId: orNull('clock', framing.hourCloserId, to),
      showOpenerId: orNull('clock', framing.showOpenerId, to),
      showCloserId: orNull('clock', framing.showCloserId, to),
      momentsId: orNull('clock', framing.momentsId, to),
    },
  }),
  datePlan: ({ blocks }, to) => ({ blocks: renamedBlocks(blocks, to) }),
  sponsor: ({ promises }, to) => ({
    promises: promises.map((one) => ({ ...one, daypartId: orNull('daypart', one.daypartId, to) })),
  }),
  rollingSettings: ({ loopClockId, setListId }, to) => ({
    loopClockId: orNull('clock', loopClockId, to),
    setListId: orNull('setList', setListId, to),
  }),
};

/** The fields of a row that name things, with every id put through `to`. */
export function renamed<K extends NamingKind>(thing: K, row: NamingRows[K], to: Renaming): NamingRows[K] {
  return RENAMED[thing](row, to);
}

/** What a row names, each thing once. */
export function referencesOf<K extends NamingKind>(thing: K, row: NamingRows[K]): Reference[] {
  const found = new Map<string, Reference>();
  renamed(thing, row, (kind, id) => {
    found.set(`${kind} ${id}`, { kind, id });
    return id;
  });
  return [...found.values()];
}

function orNull(kind: NamedKind, id: string | null | undefined, to: Renaming): string | null {
  return id === null || id === undefined ? null : to(kind, id);
}

function renamedLine(line: ClockLine, to: Renaming): ClockLine {
  const source = sourceOf(line);
  const item = itemOfLine(line);
  const drawn = source === null ? line : withSource(line, to('source', source));
  if (item !== null) return { ...drawn, itemId: to('item', item) } as ClockLine;
  return drawn.kind === 'set list' ? { ...drawn, setListId: to('setList', drawn.setListId) } : drawn;
}

const KIND_OF_RUN = { clock: 'clock', show: 'show', draw: 'source', 'set list': 'setList' } as const;

function renamedBlocks<B extends { readonly runs: keyof typeof KIND_OF_RUN; readonly id: string }>(
  blocks: readonly B[],
  to: Renaming,
): B[] {
  return blocks.map((block) => ({ ...block, id: to(KIND_OF_RUN[block.runs], block.id) }));
}
