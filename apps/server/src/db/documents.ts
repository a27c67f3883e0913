/** A row whose document cannot be read is of no use. */
export const NO_ROW = Symbol('no row');

/** A column of stored documents: the shape they have, and what stands in place of one that cannot be read. */
export interface Documents {
  readonly table: string;
  readonly column: string;
  readonly type: 'array' | 'object';
  /** Of each value in it; anything where not given. */
  readonly values?: 'object' | 'array' | 'text';
  readonly instead: string | null | typeof NO_ROW;
  /** An SQL expression for the row’s name. */
  readonly name: string;
  readonly told: (name: string) => string;
}

const FRAMING = JSON.stringify({
  hourOpenerId: null,
  hourCloserId: null,
  showOpenerId: null,
  showCloserId: null,
  momentsId: null,
});
const STATION = `(select name from station where station.id = t.id)`;

/** Every column of stored documents. */
export const DOCUMENTS: readonly Documents[] = [
  {
    table: 'clock',
    column: 'lines',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The lines of clock “${name}” could not be read. The clock is empty now.`,
  },
  {
    table: 'week_plan',
    column: 'blocks',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: STATION,
    told: (name) => `The week of ${name} could not be read. It is empty now.`,
  },
  {
    table: 'week_plan',
    column: 'framing',
    type: 'object',
    instead: FRAMING,
    name: STATION,
    told: (name) => `The openers and closers of ${name} could not be read. They are not set now.`,
  },
  {
    table: 'show',
    column: 'clock_ids',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: 'name',
    told: (name) => `The clocks of show “${name}” could not be read. It has none now.`,
  },
  {
    table: 'date_plan',
    column: 'blocks',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The blocks of the date “${name}” could not be read. It has none now.`,
  },
  {
    table: 'rule',
    column: 'exceptions',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'tag',
    told: (name) => `The exceptions of a rule about the ${name} could not be read. It has none now.`,
  },
  {
    table: 'rule',
    column: 'places',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'tag',
    told: (name) => `The places of a rule about the ${name} could not be read. It applies to the whole station now.`,
  },
  {
    table: 'limit_pack',
    column: 'exempt_albums',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: STATION,
    told: (name) => `The albums that the limits of ${name} do not count could not be read. There are none now.`,
  },
  {
    table: 'log_run',
    column: 'hours',
    type: 'array',
    instead: null,
    name: '"date"',
    told: (name) => `Which hours a run over ${name} was for could not be read. It is shown as one over the whole day.`,
  },
  {
    table: 'log_run',
    column: 'rules_off',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: '"date"',
    told: (name) => `Which rules were off in a run over ${name} could not be read. None are shown now.`,
  },
  {
    table: 'log_run',
    column: 'answers',
    type: 'object',
    values: 'text',
    instead: '{}',
    name: '"date"',
    told: (name) => `What was answered in a run over ${name} could not be read. Nothing is shown now.`,
  },
  {
    table: 'category',
    column: 'cool_off',
    type: 'object',
    instead: null,
    name: 'name',
    told: (name) => `The rest that category “${name}” gives after many plays could not be read. It is not set now.`,
  },
  {
    table: 'item',
    column: 'tags',
    type: 'object',
    values: 'array',
    instead: '{}',
    name: 'title',
    told: (name) => `The tags of “${name}” could not be read. It has none now.`,
  },
  {
    table: 'item',
    column: 'credit_pins',
    type: 'object',
    values: 'text',
    instead: '{}',
    name: 'title',
    told: (name) => `Which artists of one name “${name}” credits could not be read. It is not set now.`,
  },
  {
    table: 'tag_family',
    column: 'values',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The values of tag family “${name}” could not be read. It has none now.`,
  },
  {
    table: 'hand_over',
    column: 'files',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: '"date"',
    told: (name) => `The files of a hand-over of ${name} could not be read. None are listed now.`,
  },
  {
    table: 'daily_log',
    column: 'hours',
    type: 'array',
    values: 'object',
    instead: NO_ROW,
    name: '"date"',
    told: (name) => `The log of ${name} could not be read. There is no log of that date now.`,
  },
  {
    table: 'worklist',
    column: 'item_ids',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: STATION,
    told: (name) => `The worklist of ${name} could not be read. It is empty now.`,
  },
  {
    table: 'column_mapping',
    column: 'mapping',
    type: 'array',
    instead: NO_ROW,
    name: '"columns"',
    told: () => 'How the columns of a table were mapped could not be read. It is proposed anew.',
  },
  {
    table: 'pending_hand_over',
    column: 'record',
    type: 'object',
    instead: NO_ROW,
    name: 'id',
    told: () => 'What a stopped hand-over was about to write could not be read. Hand over that day again.',
  },
  {
    table: 'pending_hand_over',
    column: 'output',
    type: 'object',
    instead: NO_ROW,
    name: 'id',
    told: () => 'What a stopped hand-over was about to write could not be read. Hand over that day again.',
  },
];
