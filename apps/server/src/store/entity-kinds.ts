import {
  ArtistAliasEntity,
  ArtistEntity,
  CategoryEntity,
  CategoryGroupEntity,
  ClockEntity,
  CreditEntity,
  DatePlanEntity,
  DaypartEntity,
  HandOverEntity,
  OnAirSettingsEntity,
  RollingSettingsEntity,
  SetListEntity,
  SponsorEntity,
  SponsorSettingsEntity,
  PlayerOutputEntity,
  StationEntity,
  KeptReportEntity,
  TextLayoutEntity,
  TrafficDayEntity,
  TrafficSettingsEntity,
  ItemEntity,
  PersonEntity,
  PlacementEntity,
  PoolEntity,
  RuleEntity,
  OneActEntity,
  RotationPlanEntity,
  UnreadableNoteEntity,
  WatchedFolderEntity,
  WorklistEntity,
  KeptApartEntity,
  LimitPackEntity,
  ShowEntity,
  TagFamilyEntity,
  WeekPlanEntity,
} from '../db/entities/index.js';

/** The kinds of row a person can change, by the name activities know them under. */
export const ENTITY_KINDS = {
  item: ItemEntity,
  artist: ArtistEntity,
  artistAlias: ArtistAliasEntity,
  credit: CreditEntity,
  tagFamily: TagFamilyEntity,
  placement: PlacementEntity,
  pool: PoolEntity,
  categoryGroup: CategoryGroupEntity,
  category: CategoryEntity,
  clock: ClockEntity,
  week: WeekPlanEntity,
  show: ShowEntity,
  datePlan: DatePlanEntity,
  rule: RuleEntity,
  daypart: DaypartEntity,
  limitPack: LimitPackEntity,
  oneAct: OneActEntity,
  keptApart: KeptApartEntity,
  worklist: WorklistEntity,
  watchedFolder: WatchedFolderEntity,
  rotationPlan: RotationPlanEntity,
  unreadableNote: UnreadableNoteEntity,
  handOver: HandOverEntity,
  playerOutput: PlayerOutputEntity,
  trafficSettings: TrafficSettingsEntity,
  textLayout: TextLayoutEntity,
  trafficDay: TrafficDayEntity,
  onAirSettings: OnAirSettingsEntity,
  rollingSettings: RollingSettingsEntity,
  setList: SetListEntity,
  sponsor: SponsorEntity,
  sponsorSettings: SponsorSettingsEntity,
  person: PersonEntity,
  station: StationEntity,
  keptReport: KeptReportEntity,
} as const;
export type EntityKind = keyof typeof ENTITY_KINDS;
export type Row = Record<string, unknown> & { id: string };

/** Whether things of a name are rows. */
export function isEntityKind(thing: string): thing is EntityKind {
  return Object.hasOwn(ENTITY_KINDS, thing);
}

/** Kinds of which a row can belong to one station, and what a person calls them. */
export const VISIBLE = {
  item: 'item',
  pool: 'pool',
  category: 'category',
  clock: 'clock',
  show: 'show',
  datePlan: 'date',
  rule: 'rule',
  daypart: 'daypart',
  sponsor: 'sponsor',
  setList: 'set list',
  keptReport: 'report',
} as const;

/** The name the mapper knows the entity of a kind by. */
export function nameOf(thing: EntityKind): string {
  return (ENTITY_KINDS[thing] as unknown as { meta: { className: string } }).meta.className;
}
