import type { ItemKind, Scope } from '@fuller/core';
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
    cart: p.string().nullable(),
    file: p.string().nullable(),
    isrc: p.string().nullable(),
    label: p.string().nullable(),
    notes: p.string(),
    startDate: p.string().nullable(),
    endDate: p.string().nullable(),
    tags: p.json<Record<string, string[]>>(),
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
  properties: { id: p.string().primary(), itemId: p.string(), categoryId: p.string() },
});
export type PlacementRecord = InferEntity<typeof PlacementEntity>;
