/** Stations, and the group they belong to. */
export const STATIONS = [
  `create table "station_group" (
    "id" text primary key,
    "name" text not null)`,
  `create table "station" (
    "id" text primary key,
    "group_id" text not null references "station_group" ("id"),
    "name" text not null,
    "frequency" text not null,
    "time_zone" text not null,
    "position" integer not null,
    "revision" integer not null default 1,
    "archived" boolean not null default false,
    "moves_by_itself" boolean not null default false,
    "moved_on" text null)`,
];
