export { AirDate, Change, ErrorAnswer, Id, QueryInteger, ShortText } from './basics.js';
export {
  DatePlanPatch,
  DatePlanRow,
  DrawCount,
  NewDatePlan,
  NewShow,
  ShowPatch,
  ShowRow,
  StaleLog,
  Week,
  WeekUpdate,
} from './air-plan.js';
export { COPIED_PARTS, NewStation, StationPatch, type CopiedParts } from './stations.js';
export {
  AskedReport,
  KeptReport,
  KeptReportPatch,
  MOST_REPORT_DAYS,
  NewKeptReport,
  reportAddress,
  ReportAnswer,
  ReportKindName,
  ReportQuery,
} from './insight.js';
export { CarryOut, ItemLife, MoveEffect, MoveRow, Moves, PlannedMoveAsked } from './lives.js';
export {
  ForecastAnswer,
  ForecastBrief,
  ForecastChangeAsked,
  ForecastChanges,
  ForecastRequest,
  ForecastView,
  MOST_FORECAST_WEEKS,
} from './forecast.js';
export { FOUND_KINDS, FoundThing, type FoundKind } from './search.js';
export { MakeOwn, SHARED_KINDS, Sharing, USER_KINDS, Use, type SharedKind } from './sharing.js';
export { ClockRow, ClockUpdate, NewClock } from './clocks.js';
export {
  Catalogue,
  CategoryGroup,
  CategoryPatch,
  CategoryRow,
  Created,
  NewCategory,
  Station,
  UnreadableNote,
} from './catalogue.js';
export {
  ITEM_SORTS,
  ActChange,
  Approval,
  FilterWords,
  FolderImport,
  ImportOptions,
  ImportSession,
  ImportSettings,
  ImportSummary,
  RejectedRow,
  ItemCard,
  ItemPage,
  ItemPatch,
  ItemQuery,
  ItemRow,
  NewPool,
  Placement,
  PoolPatch,
  PoolRow,
  WatchedFolder,
  WatchedFolderView,
} from './library.js';
export { AskAt, AttendedAnswer, AttendedRun, AttendedState, AttendedStep, BeginAttended } from './attended.js';
export {
  AcceptPreview,
  ActivityRow,
  AiredPlay,
  DAY_STATES,
  DaySummary,
  GeneratedDaySummary,
  GenerateRequest,
  HandEdit,
  JobView,
  KeptLog,
  LogEditRequest,
  LogItem,
  LogRun,
  LogVersion,
  LogView,
  NewEntry,
  PresenceRequest,
  PreviewDay,
  RestoreVersion,
  RUN_SCOPES,
  RunDecision,
  type DayState,
} from './logs.js';
export type { Announcement, ChangedThing, ServerEvent } from './events.js';
export { AliasPreview, ArtistRename, ArtistSplit, ArtistView, NewAlias } from './artists.js';
export {
  AlbumCluster,
  ArtistCluster,
  MergeAlbums,
  MergeArtists,
  RefuseDoubles,
  SongCluster,
  TidyView,
} from './tidy.js';
export { FamilyPatch, FamilyRemoval, FamilyRow, NewFamily } from './tags.js';
export { BulkDone, BulkPreview, BulkRequest, Worklist, WorklistChange } from './bulk.js';
export { AirplayProof, FitQuery, ItemFit, ItemPlays, ProofQuery } from './plays.js';
export {
  CategoryMerge,
  CategoryRests,
  CategorySplit,
  CategoryUse,
  GroupPatch,
  NewGroup,
  OrderQuery,
  RotationPlan,
  RotationRow,
  RotationSheet,
} from './rotation.js';
export { DaypartRow, NewRule, RuleInFile, RulePatch, RuleRow, RulesFile } from './rules.js';
export { LimitCheck, LimitSettings } from './limits.js';
export {
  KeptLayout,
  LayoutForm,
  LineError,
  LONGEST_TRAFFIC,
  MoveSpot,
  TrafficBreak,
  TrafficDay,
  TrafficOutcome,
  TrafficRequest,
  TrafficSettings,
  TrafficSetUp,
  TrayRow,
  USUAL_TOLERANCE_MS,
} from './traffic.js';
export {
  AsRunDay,
  AsRunDecisions,
  AsRunLine,
  AsRunOutcome,
  AsRunRequest,
  LONGEST_AS_RUN,
  OnAir,
  OnAirSettings,
  OnAirSettingsForm,
  PlayerCommand,
  PlayerQueueRow,
  PlayerState,
  SponsorProof,
  TakeAir,
} from './on-air.js';
export {
  QueueEdit,
  RequestForm,
  Rolling,
  RollingQueueRow,
  RollingSettings,
  RollingSettingsForm,
  SongRequest,
  SongRequests,
} from './rolling.js';
export { NewSponsor, PromiseShortfall, SponsorPatch, SponsorRow, SponsorSettings, SponsorWeek } from './sponsors.js';
export {
  MatchAnswer,
  MatchRequest,
  NewSetList,
  SET_LIST_FORMATS,
  SetListContent,
  SetListEditRequest,
  SetListInfo,
  SetListItemInfo,
  SetListPatch,
} from './set-lists.js';
export { ENDPOINTS, type EndpointName, type Endpoints } from './endpoints/endpoints.js';
export { ActivityChange, ActivityChanges, ActivitySettings } from './activity.js';
export { BackupFacts, BackupName, BackupRow, Backups, BackupSettings, CareFinding } from './care.js';
export { RIGHTS, type Right } from './rights.js';
export {
  GROUP_RIGHTS,
  NewPassword,
  NewPerson,
  NewToken,
  PersonPatch,
  PersonRow,
  RIGHTS_OF,
  ROLES,
  RoleAt,
  SessionRow,
  SessionView,
  TokenRow,
  includesRight,
  mayWith,
  roleAt,
  type Role,
} from './people.js';
export {
  type AddressOf,
  type AnswerOf,
  type AnyEndpoint,
  type AnySchema,
  type BodyOf,
  type Endpoint,
  type OutputOf,
} from './endpoints/endpoint.js';
export { DeskData, RulesGround } from './desk.js';
export { COMMON_ERRORS, ERROR_CODES, type ErrorCode } from './errors.js';
export {
  HandOverChanges,
  HandOverPreview,
  HandOverRecord,
  HandOverRequest,
  HandOverSettings,
  handOverSettings,
  HandOverState,
  MadeFile,
  Output,
  OutputForm,
  OutputTarget,
} from './hand-over.js';
export { BeginCategories, BeginLengths, BeginSetUp, BeginView, MOST_BEGUN_CATEGORIES, SetUpView } from './begin.js';
