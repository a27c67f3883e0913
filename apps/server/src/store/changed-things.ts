import type { ChangedThing } from '@fuller/contracts';

/** What others have to read again when rows of a kind have changed. */
const TOUCHED_BY: Readonly<Record<string, readonly ChangedThing[]>> = {
  item: ['library', 'catalogue'],
  placement: ['library', 'catalogue'],
  pool: ['library'],
  artist: ['library'],
  artistAlias: ['library'],
  oneAct: ['library'],
  keptApart: ['library'],
  tagFamily: ['library'],
  worklist: ['library'],
  watchedFolder: ['library'],
  unreadableNote: ['library'],
  rotationPlan: ['library'],
  categoryGroup: ['catalogue'],
  category: ['catalogue', 'library'],
  clock: ['catalogue'],
  week: ['catalogue'],
  show: ['catalogue'],
  datePlan: ['catalogue'],
  rule: ['catalogue', 'logs'],
  daypart: ['catalogue', 'logs'],
  limitPack: ['catalogue', 'logs'],
  log: ['logs'],
  handOver: ['hand-over', 'logs'],
  playerOutput: ['hand-over'],
  trafficSettings: ['traffic'],
  textLayout: ['traffic', 'hand-over'],
  trafficDay: ['traffic'],
  onAirSettings: ['on-air'],
  asRun: ['on-air'],
  setList: ['set-lists', 'catalogue'],
  setListRows: ['set-lists', 'catalogue'],
  sponsor: ['sponsors'],
  sponsorSettings: ['sponsors'],
  rollingSettings: ['on-air', 'rolling'],
  rollingQueue: ['rolling'],
  songRequest: ['requests'],
  keptReport: ['insight'],
  person: ['people'],
  secret: ['people'],
  station: ['stations', 'catalogue', 'library', 'traffic', 'on-air'],
};

/** Kinds that leave everything that rules are held against as it is. */
const RULES: ReadonlySet<string> = new Set(['rule', 'limitPack']);

/** What an event says has changed, from the kinds of row that were written. */
export function changedThings(kinds: ReadonlySet<string>): ChangedThing[] {
  const touched = new Set([...kinds].flatMap((kind) => TOUCHED_BY[kind] ?? []));
  if (kinds.size > 0 && [...kinds].every((kind) => RULES.has(kind))) touched.add('only rules');
  return [...touched];
}
