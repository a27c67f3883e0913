import type { EntryBinding } from '@fuller/core';
import type * as v from 'valibot';
import type { HandEdit, JobView, LogItem, Strain } from './logs.js';

/** What has happened, as the server tells it to all. */
export type Announcement =
  | { readonly type: 'job'; readonly job: JobView }
  | {
      /** A log as an edit by hand has left it: what changed, for those who have its last revision. */
      readonly type: 'log';
      readonly stationId: string;
      readonly clientId: string;
      readonly date: string;
      readonly revision: number;
      readonly edit: HandEdit;
      /** What teases and sweepers play after it that they did not before. */
      readonly bindings: readonly EntryBinding[];
      readonly items: readonly LogItem[];
      readonly strains: readonly v.InferOutput<typeof Strain>[];
      /** How many slots are open in the whole log. */
      readonly open: number;
    }
  | {
      /** Where somebody is in a log; null where they have left it. */
      readonly type: 'presence';
      readonly stationId: string;
      readonly clientId: string;
      readonly date: string | null;
      readonly entryId: string | null;
    }
  | {
      readonly type: 'changed';
      readonly stationId: string | null;
      readonly clientId: string;
      readonly what: readonly ChangedThing[];
    };

/**
 * What the event stream sends: first `ready`, then what happens. Each carries the revision of all data after it, which
 * grows with every write, so that a client knows after a break whether it has missed anything.
 */
export type ServerEvent = (Announcement | { readonly type: 'ready' }) & { readonly dataRevision: number };
/** What an event says has changed; `only rules` besides, where nothing but rules has. */
export type ChangedThing =
  | 'library'
  | 'catalogue'
  | 'logs'
  | 'hand-over'
  | 'traffic'
  | 'sponsors'
  | 'set-lists'
  | 'on-air'
  | 'rolling'
  | 'requests'
  | 'people'
  | 'insight'
  | 'stations'
  | 'only rules';
