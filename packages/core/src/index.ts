export { elementAt, lastOf, lookUp, lookUpIn } from './values/look-up.js';
export { foldText, nameKey } from './text/fold.js';
export { formatDuration, LONGEST_ITEM_MS, parseDuration, wallClockText } from './time/duration.js';
export { dayFigures, type DayFacts, type DayFigures, type DayPlay } from './reports/day-figures.js';
export type { ReportCategory, ReportGround, ReportItem, ReportNames, StationDays } from './reports/ground.js';
export {
  LINK_TARGETS,
  REPORT_UNITS,
  type Report,
  type ReportLink,
  type ReportPicture,
  type ReportUnit,
} from './reports/report.js';
export { forecastDays, type ForecastDay } from './forecast/forecast-day.js';

export { moveEffects } from './rotation/move-effects.js';
export { dueMove, type DueMove, type Life, type Placed, type PlannedMove } from './rotation/life.js';
export { movedTo } from './station/moves.js';
export { forecastChangeWords, type ChangeNames } from './forecast/change-words.js';
export { withChanges, withClockOn, type ForecastChange } from './forecast/change.js';
export { compareForecasts, type ForecastComparison, type ForecastNames } from './forecast/compare-forecasts.js';
export { makeReport, REPORT_KINDS, REPORT_NAMES, type ReportKind } from './reports/make-report.js';
export { numberText } from './reports/number-text.js';
export { reportCsv } from './reports/report-csv.js';
export {
  datesIn,
  datesOfRange,
  MOVING_RANGES,
  rangeBefore,
  type DateRange,
  type MovingRange,
} from './reports/range.js';
export { inWords as secondsInWords, sum } from './reports/words.js';
export { formatSpan } from './time/span.js';
export {
  addDays,
  daysBetween,
  formatAirTime,
  formatLocalDateTime,
  hoursOfDay,
  isDate,
  isTimeZone,
  localTimeOf,
  weekdayOf,
  WEEK_HOURS,
} from './time/local-day.js';
export { ANNOUNCED, ITEM_KINDS, type Announced, type ItemKind, type Scope } from './library/item.js';
export type { TagValue } from './library/tags.js';
export { changeValues, movedValues } from './library/tag-family.js';
export { bulkChange, REPLACED_FIELDS, type BulkEdit, type EditedItem } from './library/bulk-edit.js';
export { hoursInWords, paintHours, PAUSED_FOR_GOOD } from './library/availability.js';
export { mainCredit, parseCredits } from './library/credits.js';
export {
  albumDoubles,
  artistDoubles,
  clusterKey,
  clustersOf,
  songDoubles,
  type KnownAlbum,
  type KnownArtist,
  type KnownSong,
} from './library/tidy/doubles.js';
export type { Filter, FilterTest, FilterVocabulary, Range } from './library/filter/filter.js';
export { familyName, parseFilter } from './library/filter/parse-filter.js';
export { asWords } from './library/filter/tokens.js';
export { matchesFilter, type FilterableItem } from './library/filter/match-filter.js';
export { completionsOf, valuesInField, withField, type Completion } from './library/filter/complete-filter.js';
export {
  guessMapping,
  IMPORT_FIELDS,
  looksLikeHeader,
  type ImportField,
  type TagColumn,
} from './library/import-fields.js';
export { readRow, type ItemDraft, type KnownFamily, type RowError } from './library/import-row.js';
export { planImport, type ExistingItem, type ImportPlan } from './library/import-plan.js';
export { BAND_COLOURS, bandColour, TURN_ORDERS, turnoverHours, type TurnOrder } from './rotation/category.js';
export { slotsOfWeek, weeklyDemand, weekSlots, type WeekSlot } from './week/week-slots.js';
export {
  freeOnAverage,
  freeTightness,
  scaledSlots,
  titleTightness,
  turnoverOf,
  wishedNumbers,
  type Tightness,
  type Turnover,
  type TurnoverWish,
} from './rotation/turnover.js';
export { categorySpread, hourSpread } from './rotation/hour-spread.js';
export { itemRests } from './rotation/rests.js';
export { LONGEST_COOL_OFF, type CoolOff } from './rotation/cool-off.js';
export { playsByItem, sharedRates, slotsByHour, turnoverSheet } from './sheet/sheet.js';
export { nextPicks } from './sheet/next-picks.js';
export { flagsOf, LINE_FLAGS, type LineFlags } from './clocks/line-flags.js';
export {
  PLAY_ENDS,
  PLAY_SOURCES,
  type AiredRow,
  type AsRun,
  type MissedRow,
  type PlayEnd,
  type PlaySource,
} from './as-run/as-run.js';
export { airedPlays, DECISIONS, isDifference, type Decision, type KnownRow } from './as-run/aired-plays.js';
export {
  reconcile,
  RECONCILED,
  type AiredDay,
  type PlannedRow,
  type Reconciled,
  type ReconciledRow,
} from './as-run/reconcile.js';
export { plannedRows } from './as-run/planned-rows.js';
export { AsRunSchema, readAsRun, unknownRows, type AsRunRead } from './as-run/read-as-run.js';
export { AS_RUN_LAYOUT, writeAsRunText } from './as-run/as-run-text.js';
export { readPlayerRows, type PlayerFileAbout, type PlayerRowsRead } from './formats/playlists/read-player-rows.js';
export { WallTimes } from './time/wall-time.js';
export { readCue, writeCue, type Cue } from './formats/playlists/cue.js';
export {
  drawOf,
  GRAIN_MS,
  HOUR_MS,
  itemOfLine,
  LONGEST_CLOCK_MS,
  withSource,
  sourceOf,
  type ClockLine,
  type Draw,
  type TeaseTarget,
} from './clocks/line.js';
export { copyLines, insertLines, moveLines, removeLines, replaceLine } from './clocks/line-edits.js';
export {
  expectedStarts,
  type ExpectedLine,
  type ExpectedSilence,
  type LengthLookup,
} from './clocks/expected-starts.js';
export { LONGEST_SHOW_MINUTES, NO_FRAMING, type Framing, type Show } from './week/show.js';
export {
  BLOCK_RUNS,
  blockAt,
  copyDay,
  DAY_MINUTES,
  EMPTY_WEEK,
  GRAIN_MINUTES,
  paint,
  reshape,
  WEEK_MINUTES,
  type BlockContent,
  type PlanBlock,
  type WeekPlan,
} from './week/week-plan.js';
export { datesOf, repeatFault, type DatePlan } from './week/date-plan.js';
export type { AirPlan } from './week/air-plan.js';
export {
  dayOf,
  extendQueue,
  isDeepEnough,
  type ExtendedQueue,
  type LiveQueue,
  type QueueGround,
} from './rolling/extend-queue.js';
export { rollingLog, rowStarts, strainedRows, type RolledDay } from './rolling/rolling-log.js';
export {
  FIRST_CURSOR,
  ROLLING_SOURCES,
  type PassedOver,
  type RolledPlay,
  type RollingCursor,
  type RollingDepth,
  type RollingRow,
  type RollingSource,
} from './rolling/rolling.js';
export { matchWish, type Wish, type WishedSong } from './requests/match-wish.js';
export { heldAnswer, placeRequest, strainedIds, type PlacedRequest } from './requests/place-request.js';
export {
  isAnswerStale,
  REQUEST_STATES,
  SAY_AGAIN_MS,
  type RequestAnswer,
  type RequestLimits,
  type RequestState,
} from './requests/request.js';
export { rollOnce, type RolledQueue, type WaitingRequest } from './rolling/roll-once.js';
export { requestWords } from './requests/request-words.js';
export { liveShows, type LiveStretch } from './week/live-shows.js';
export { timelineOf, type Stretch } from './week/timeline.js';
export { framedClock, type FramedLine } from './week/framing.js';
export { expandDay } from './week/expand-day.js';
export { usageOfClocks, type Usage } from './week/usage.js';
export { drawAdvice, type DrawAdvice } from './clocks/draw-advice.js';
export type { NameBook } from './clocks/text/clock-names.js';
export { MOST_ROWS as MOST_ROWS_OF_LINE, readClock, type ClockText, type TextFault } from './clocks/text/read-clock.js';
export { writeClock, writeLine } from './clocks/text/write-clock.js';
export { checkPromises, type PromisesOfDay } from './sponsors/check-promises.js';
export { placeMessages } from './sponsors/place-messages.js';
export type { KeptAsk } from './sponsors/message-board.js';
export {
  NO_SPONSORS,
  PROMISED_PER,
  sponsorKey,
  type PromisedPer,
  type Sponsor,
  type SponsorPolicy,
  type SponsorPromise,
} from './sponsors/sponsor.js';
export { chooseThemes } from './themes/choose-themes.js';
export { FIRST_GROUP, THEME_TAGS, type EntryTheme, type Theme } from './themes/theme.js';
export { themePlays } from './themes/theme-plays.js';
export { themeValues } from './themes/theme-values.js';
export {
  applySetListEdit,
  doubleRows,
  invertSetListEdit,
  MOST_SET_LIST_ROWS,
  moveRows,
  removeRows,
  setListTotal,
  type ListPlace,
  type ScheduledList,
  type SetListEdit,
  type SetListPick,
  type SetListRow,
  type SetListSplice,
  type SetListTotal,
} from './set-lists/set-list.js';
export { linesOfRows } from './set-lists/scheduled-list.js';
export { lastListRows, withListPlaces } from './set-lists/list-places.js';
export { drawsOfPlan, itemsOfPlan, listsOfPlan } from './week/plan-contents.js';
export { writeFile } from './hand-over/write-output.js';
export { bindLog } from './bound/bind-log.js';
export { teaseBook, type TeaseBook } from './bound/tease-book.js';
export { changedBindings, withBindings, type EntryBinding } from './log/binding.js';
export { mergeLines } from './clocks/text/merge-lines.js';
export {
  amountAt,
  amountInCategory,
  ITEM_TAGS,
  LAST_RANK,
  PLACE_KINDS,
  RULE_SHAPES,
  withoutPlace,
  type Rule,
  type RuleException,
  type RuleLocation,
  type RuleParts,
  type RulePlace,
  type RuleShape,
  type RuleStrength,
} from './rules/rule.js';
export { daypartsAt, type Daypart } from './rules/daypart.js';
export {
  faultOfRule,
  partText,
  readRuleAmount,
  readRuleSentence,
  readRuleWindow,
  ruleSentence,
} from './rules/sentence.js';
export { ruleNames, subjectText, tagName, valueName, type NamedTag, type RuleNames } from './rules/rule-words.js';
export type { SentencePart } from './rules/form.js';
export { RULE_EXAMPLES, RULE_PRESETS, type RulePreset } from './rules/presets.js';
export { RULE_FORMS } from './rules/forms.js';
export { readSeparation } from './rules/apart/apart-form.js';
export { entryLocation } from './station/entry-location.js';
export { readInstance, type Instance } from './engine/instance.js';
export { PROOFS, type Solution } from './engine/solution.js';
export { Random, seededRandom } from './engine/random.js';
export { EFFORTS, type Effort } from './engine/effort.js';
export { solve } from './engine/solve.js';
export { InstanceRule } from './rules/shapes.js';
export { airTimes, breakLength, type LogTiming, type MarkTiming, type Silence } from './log/air-times.js';
export {
  allEntries,
  checkLog,
  findEntry,
  itemOf,
  openSlots,
  slotsOf,
  type ChosenWhy,
  type BreakEntry,
  isBound,
  MISSING_REASONS,
  type BoundEntry,
  type DailyLog,
  type EntryTarget,
  type Spot,
  type LogEntry,
  type LogHour,
  type PickEntry,
} from './log/daily-log.js';
export { applyEdit } from './log/apply-edit.js';
export { invertEdit } from './log/invert-edit.js';
export { byHand, touchedEntries, type HandEdit as LogHandEdit, type LogEdit } from './log/log-edit.js';
export { placeBeside, placeOf, type LogPlace } from './log/log-place.js';
export { hoursTouched, refusalToPresenter } from './log/within-shows.js';
export { pasted } from './log/paste-entry.js';
export { compareLogs, type LogComparison, type ComparedRow } from './log/compare-logs.js';
export { acrossSeconds, looksAcross } from './station/across-plays.js';
export type { SisterPlay, StationData, StationPlay, ThemePlay } from './station/station-data.js';
export { StationModel } from './station/station-model.js';
export { generateDay } from './generate/generate-day.js';
export { emptyDay, laidOutDay } from './generate/starting-log.js';
export { fillToStop, withReason, type RunStop, type StopsAt } from './generate/attended.js';
export type { GenerateOptions } from './generate/generate-options.js';
export { staleHours } from './generate/stale-hours.js';
export { outlookOf, type Outlook, type OutlookLevel, type OutlookProgress } from './judge/outlook.js';
export { LogInspector, type Candidate, type Strain } from './judge/inspect-log.js';
export type { Gain, Mend as LogMend, SwapPartner } from './judge/mending.js';
export { PlayNeighbours, type ItemNeighbours, type Neighbours, type PlayPlace } from './judge/play-neighbours.js';
export { dayFit } from './judge/fit.js';
export { heldAt } from './judge/held-now.js';
export { entryOfDate, readEntryOfDate } from './log/entry-of-date.js';
export { mustApply } from './log/apply-edit.js';
export {
  handOver,
  handOverTiming,
  type HandOver,
  type HandOverItem,
  type HandOverSources,
  type HandOverSettings as FileSettings,
} from './hand-over/hand-over.js';
export {
  encodingsOf,
  FORMAT_ENDINGS,
  OUTPUT_FORMATS,
  PLAIN_LAYOUT,
  type OutputFormat,
} from './hand-over/output-format.js';
export { MISSING_LETTERS, OUTPUT_ENCODINGS, type MissingLetters, type OutputEncoding } from './formats/encodings.js';
export { layoutFault } from './hand-over/write-output.js';
export { SLASHES, type PathPrefix } from './formats/playlists/rewrite-path.js';
export type { PlayerRow } from './formats/playlists/player-row.js';
export { airedIds, restoreHours } from './station/aired.js';
export { changedEntries, undoEdit } from './log/undo-edit.js';
export { TEXT_ENCODINGS, type TextEncoding } from './formats/text-encodings.js';
export { DELIMITERS, type Delimiter } from './formats/delimiters.js';
export { detectDelimiter, writeCsv, type CsvRow } from './formats/csv.js';
export { detectFormat, readRows, TEXT_FORMATS, type TextFormat } from './formats/playlist-rows.js';
export {
  checkLayout,
  COLUMN_MEANINGS,
  LENGTH_NOTATIONS,
  TextLayoutSchema,
  TIME_NOTATIONS,
  type ColumnMeaning,
  type LayoutDelimiter,
  type TextLayout,
} from './formats/layouts/layout.js';
export { findDate } from './formats/layouts/text-log-values.js';
export { proposeLayout } from './formats/layouts/propose-layout.js';
export { landAfterBooking } from './generate/land-marks.js';
export {
  readTextLog,
  readTextRows,
  splitCells,
  type BookedSpot,
  type TextLogRead,
} from './formats/layouts/read-text-log.js';
export { bookSpots, changedSpots, spotOf } from './traffic/book-spots.js';
export { moveSpot } from './traffic/move-spot.js';
export { pointOut } from './formats/layouts/point-out.js';
export {
  asPlanned,
  bookedBreaks,
  matchSpots,
  spotMarks,
  type BookedBreak,
  type SpotMark,
} from './traffic/match-spots.js';
export { fileNameOf, PATTERN_PARTS } from './formats/file-name-pattern.js';
export { checkLimits, type LimitEntry, type LimitViolation } from './limits/check-limits.js';
export { STANDARD_LIMITS, statutoryLimits, type LimitOptions } from './limits/limits.js';
export { mendOf, type Mend } from './limits/mend.js';
export { mendLog, type MendedLog } from './limits/mend-log.js';
export { playlistSongs, type PlaylistSong, type PlaylistSongs } from './limits/playlist-entries.js';
export { limitReport, type LimitReport } from './limits/report.js';
export { isLimitRule, limitRules } from './limits/limit-rules.js';
export { BackTest, type BackTestPlace, type BackTestResult } from './judge/back-test.js';
export { weekDemand, type WeekDemand } from './headroom/demand.js';
export {
  HEADROOM_STATES,
  headroomOf,
  type Headroom,
  type HeadroomState,
  type HeadroomTrap,
} from './headroom/headroom.js';
export { relationsOf, type RuleRelation } from './headroom/relations.js';
export { songsOfLog, type LogSong } from './limits/log-songs.js';
export { axesOf, type Axis, type AxisValue, type BeginSong, type PlacedAxis } from './begin/axes.js';
export { joinPart, moveBorder, splitPart } from './begin/cut-parts.js';
export { proposeCategories, type ProposedCategory } from './begin/propose-categories.js';
export {
  proposeClocks,
  slotsAWeek,
  songsAnHour,
  type DrawnCategory,
  type ProposedClock,
} from './begin/propose-clocks.js';
export { firstStep, hoursOfMusic, RULE_STEPS, rulesOf } from './begin/propose-rules.js';
