import type { ImportSettings } from '@fuller/contracts';
import type { Announced, ItemKind, PlannedMove, Scope, TagValue } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

export const ItemEntity = defineEntity({
  name: 'Item',
  tableName: 'item',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    scope: p.string().$type<Scope>(),
    stationId: p.string().nullable(),
    kind: p.string().$type<ItemKind>(),
    title: p.string(),
    artist: p.string(),
    album: p.string(),
    year: p.integer().nullable(),
    durationMs: p.integer(),
    introMs: p.integer().nullable(),
    outroMs: p.integer().nullable(),
    segueMs: p.integer().nullable(),
    cart: p.string().nullable(),
    file: p.string().nullable(),
    isrc: p.string().nullable(),
    label: p.string().nullable(),
    notes: p.string(),
    startDate: p.string().nullable(),
    endDate: p.string().nullable(),
    hours: p.string().nullable(),
    pausedUntil: p.string().nullable(),
    weight: p.float(),
    approvedAtMs: p.integer().nullable(),
    approvedBy: p.string().nullable(),
    tags: p.json<Record<string, string[]>>(),
    /** Artists a person has said are meant, by the name key as printed. */
    creditPins: p.json<Record<string, string>>(),
    /** What a tease is tied to; null where title and artist say it. */
    announces: p.json<Announced | null>().nullable(),
    /** Folded copies: what search and sorting look at. */
    titleFold: p.string(),
    artistFold: p.string(),
    albumFold: p.string(),
    notesFold: p.string(),
    labelFold: p.string(),
  },
});
export type ItemRecord = InferEntity<typeof ItemEntity>;

export const ArtistEntity = defineEntity({
  name: 'Artist',
  tableName: 'artist',
  properties: { id: p.string().primary(), name: p.string(), nameKey: p.string() },
});
export type ArtistRecord = InferEntity<typeof ArtistEntity>;

export const CreditEntity = defineEntity({
  name: 'Credit',
  tableName: 'credit',
  properties: {
    id: p.string().primary(),
    itemId: p.string(),
    artistId: p.string(),
    role: p.string().$type<'main' | 'featured'>(),
    position: p.integer(),
  },
});
export type CreditRecord = InferEntity<typeof CreditEntity>;

/** Another name an artist is credited by; names meet whatever their spelling. */
export const ArtistAliasEntity = defineEntity({
  name: 'ArtistAlias',
  tableName: 'artist_alias',
  properties: { id: p.string().primary(), artistId: p.string(), name: p.string(), nameKey: p.string() },
});

/** A tag family: its values in their order. */
export const TagFamilyEntity = defineEntity({
  name: 'TagFamily',
  tableName: 'tag_family',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    name: p.string(),
    nameKey: p.string(),
    single: p.boolean(),
    values: p.json<TagValue[]>(),
    position: p.integer(),
  },
});
export type TagFamilyRecord = InferEntity<typeof TagFamilyEntity>;

/** A saved filter over the library. */
export const PoolEntity = defineEntity({
  name: 'Pool',
  tableName: 'pool',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    scope: p.string().$type<Scope>(),
    stationId: p.string().nullable(),
    name: p.string(),
    nameKey: p.string(),
    filter: p.string(),
    position: p.integer(),
  },
});

/** An item's place in a category. */
export const PlacementEntity = defineEntity({
  name: 'Placement',
  tableName: 'placement',
  properties: {
    id: p.string().primary(),
    itemId: p.string(),
    categoryId: p.string(),
    /** The date it came there; null where that is not known. */
    since: p.string().nullable(),
    /** What a person planned for it, in place of what the category says. */
    planned: p.json<PlannedMove | null>().nullable(),
  },
});
export type PlacementRecord = InferEntity<typeof PlacementEntity>;

/** A name that reads like several artists and is one act; its id is the name's key. */
export const OneActEntity = defineEntity({
  name: 'OneAct',
  tableName: 'one_act',
  properties: { id: p.string().primary(), name: p.string() },
});

/** A finding of the tidy page that a person has said is none; its id is the finding's key. */
export const KeptApartEntity = defineEntity({
  name: 'KeptApart',
  tableName: 'kept_apart',
  properties: { id: p.string().primary() },
});

/** The items a station's people have collected, in the order they were added; its id is the station's. */
export const WorklistEntity = defineEntity({
  name: 'Worklist',
  tableName: 'worklist',
  properties: { id: p.string().primary(), itemIds: p.json<string[]>() },
});

/** How a station mapped the columns of a table, by the columns' names. */
export const ColumnMappingEntity = defineEntity({
  name: 'ColumnMapping',
  tableName: 'column_mapping',
  properties: {
    stationId: p.string().primary(),
    columns: p.string().primary(),
    mapping: p.json<ImportSettings['mapping']>(),
  },
});

/** The folder a station watches for new audio; its id is the station's. */
export const WatchedFolderEntity = defineEntity({
  name: 'WatchedFolder',
  tableName: 'watched_folder',
  properties: { id: p.string().primary(), folder: p.string(), categoryId: p.string().nullable() },
});
