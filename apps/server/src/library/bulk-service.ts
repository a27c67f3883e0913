import { visibleTo } from '../db/visible.js';
import type { StationActor } from '../actor.js';
import { ItemPatch, type BulkPreview, type BulkRequest } from '@fuller/contracts';
import { bulkChange, formatDuration, hoursInWords, type BulkEdit, type EditedItem } from '@fuller/core';
import * as v from 'valibot';
import { ItemEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { recredit } from './credits.js';
import { keepFamilies, refuseSeveral } from '../tags/family-service.js';
import { folds } from './item-row.js';
import type { Store, Written } from '../store/store.js';

const SHOWN = 200;
const BATCH = 500;

interface Planned {
  readonly item: EditedItem & { readonly id: string; readonly title: string; readonly artist: string };
  readonly field: string;
  readonly before: unknown;
  readonly after: unknown;
  /** Why it cannot be. */
  readonly fault: string | null;
}

/** One change to many items: looked at first, then written all or nothing. */
export class BulkService {
  constructor(private readonly store: Store) {}

  async preview(stationId: string, { itemIds, edit }: BulkRequest): Promise<BulkPreview> {
    const planned = await this.plan(stationId, itemIds, edit as BulkEdit);
    const good = planned.filter(({ fault }) => fault === null);
    return {
      changed: good.length,
      same: itemIds.length - planned.length,
      rows: good.slice(0, SHOWN).map(({ item, field, before, after }) => ({
        id: item.id,
        title: item.title,
        artist: item.artist,
        before: inWords(field, before, edit),
        after: inWords(field, after, edit),
      })),
      refused: planned
        .filter(({ fault }) => fault !== null)
        .slice(0, SHOWN)
        .map(({ item, fault }) => ({ id: item.id, title: item.title, why: fault! })),
    };
  }

  async write({ stationId, clientId }: StationActor, { itemIds, edit }: BulkRequest): Promise<Written<number>> {
    const label = `Change ${edit.do === 'tag' ? edit.family : NAMES[edit.field]} of ${itemIds.length === 1 ? 'an item' : `${itemIds.length} items`}`;
    const planned = await this.plan(stationId, itemIds, edit as BulkEdit);
    const wrong = planned.find(({ fault }) => fault !== null);
    if (wrong) throw new FullerError('INVALID', `“${wrong.item.title}”: ${wrong.fault!} Nothing was changed.`, 'edit');
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      if (edit.do === 'tag' && edit.how !== 'remove') {
        await refuseSeveral(changes.em, { [edit.family]: edit.values });
        await keepFamilies(changes, { [edit.family]: edit.values });
      }
      for (const { item, field, after } of planned) {
        await changes.update('item', item.id, { [field]: after, ...folds({ [field]: after }) });
        if (field === 'artist') await recredit(changes, item.id, after as string);
      }
      return planned.length;
    });
  }

  /** What changes of the items that the station sees. */
  private async plan(stationId: string, itemIds: readonly string[], edit: BulkEdit): Promise<Planned[]> {
    const planned: Planned[] = [];
    for (let from = 0; from < itemIds.length; from += BATCH) {
      const items = await this.store.read.find(
        ItemEntity,
        { id: { $in: itemIds.slice(from, from + BATCH) }, ...visibleTo(stationId) },
        { disableIdentityMap: true, orderBy: { titleFold: 'asc', id: 'asc' } },
      );
      for (const row of items) {
        const item = { ...row } as unknown as Planned['item'] & { readonly durationMs: number };
        const change = bulkChange(item, edit);
        if (change) planned.push({ item, ...change, fault: faultOf(item, change) });
      }
    }
    return planned;
  }
}

const POINTS: readonly string[] = ['introMs', 'outroMs', 'segueMs'];
const patchOf = v.object(ItemPatch.entries);

function faultOf(
  item: { readonly durationMs: number },
  { field, after }: { field: string; after: unknown },
): string | null {
  if (POINTS.includes(field) && Number(after) > item.durationMs) return 'it is longer than the item.';
  const checked = v.safeParse(v.pick(patchOf, [field as 'title']), { [field]: after });
  return checked.success ? null : `the ${NAMES[field] ?? field} ${checked.issues[0].message}.`;
}

const NAMES: Readonly<Record<string, string>> = {
  title: 'title',
  artist: 'artist',
  album: 'album',
  kind: 'kind',
  year: 'year',
  introMs: 'intro',
  outroMs: 'outro',
  segueMs: 'segue',
  label: 'label',
  notes: 'notes',
  file: 'file',
  startDate: 'first day',
  endDate: 'last day',
  hours: 'hours',
  pausedUntil: 'pause',
  weight: 'weight',
  tags: 'tags',
};

function inWords(field: string, value: unknown, edit: BulkRequest['edit']): string {
  if (edit.do === 'tag') return ((value as Record<string, string[]>)[edit.family] ?? []).join(', ');
  if (field === 'hours') return hoursInWords(value as string | null);
  if (value === null) return '';
  return POINTS.includes(field) ? formatDuration(value as number) : String(value);
}
