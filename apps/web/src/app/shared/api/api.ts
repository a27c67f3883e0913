import { HttpClient, HttpErrorResponse, HttpParams } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type {
  ActivityRow,
  AiredPlay,
  AliasPreview,
  ArtistView,
  BulkPreview,
  BulkRequest,
  Catalogue,
  CategoryRests,
  CategoryUse,
  Change,
  Created,
  DaySummary,
  DeskData,
  DrawCount,
  ErrorAnswer,
  FamilyPatch,
  FamilyRow,
  FilterWords,
  HandEdit,
  HandOverPreview,
  HandOverRecord,
  HandOverSettings,
  HandOverState,
  ImportOptions,
  ImportSession,
  ImportSettings,
  ItemCard,
  ItemFit,
  ItemPage,
  ItemPatch,
  ItemPlays,
  JobView,
  LogView,
  NewDatePlan,
  NewShow,
  StaleLog,
  MergeAlbums,
  MergeArtists,
  PoolRow,
  RotationPlan,
  RotationSheet,
  Station,
  TidyView,
  UnreadableNote,
  WatchedFolderView,
  Worklist,
  WorklistChange,
} from '@fuller/contracts';
import type { ClockLine, Draw } from '@fuller/core';
import { firstValueFrom, type Observable } from 'rxjs';
import { DocumentQueue, hasRevision } from './document-queue';

/** Names this tab to the server for as long as it is open, over reloads too. */
export const CLIENT_ID = tabId();

function tabId(): string {
  const key = 'fuller.tab';
  try {
    const kept = sessionStorage.getItem(key) ?? randomId();
    sessionStorage.setItem(key, kept);
    return kept;
  } catch {
    return randomId();
  }
}

/** Pages over plain http in a studio's network have no randomUUID. */
function randomId(): string {
  return [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** What the server said when it refused. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly field: string | undefined,
  ) {
    super(message);
  }
}

export interface ItemListQuery {
  readonly q: string;
  readonly category: string | null;
  readonly artist: string | null;
  readonly sort: string;
  readonly dir: 'asc' | 'desc';
}

/** The server's API, one method a route. Every failure is an ApiError. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly options = { headers: { 'x-client': CLIENT_ID } };

  private async answer<T>(request: Observable<T>): Promise<T> {
    try {
      return await firstValueFrom(request);
    } catch (error) {
      throw asApiError(error);
    }
  }

  private get<T>(path: string, params?: Record<string, string | number>): Promise<T> {
    return this.answer(this.http.get<T>(`/api${path}`, { ...this.options, params: new HttpParams({ fromObject: params ?? {} }) }));
  }

  private send<T>(method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, body: unknown = {}): Promise<T> {
    const ask = (sent: unknown): Promise<T> => this.answer(this.http.request<T>(method, `/api${path}`, { ...this.options, body: sent }));
    return method === 'PATCH' && hasRevision(body) ? this.documents.save(path, body, ask) : ask(body);
  }

  private readonly documents = new DocumentQueue();

  stations = (): Promise<Station[]> => this.get('/stations');
  catalogue = (stationId: string): Promise<Catalogue> => this.get(`/stations/${stationId}/catalogue`);
  days = (stationId: string, from: string, count: number): Promise<DaySummary[]> => this.get(`/stations/${stationId}/days`, { from, count });

  items(stationId: string, query: ItemListQuery, offset: number, limit: number): Promise<ItemPage> {
    return this.get(`/stations/${stationId}/items`, { ...questionOf(query), offset, limit });
  }
  itemsCsvUrl(stationId: string, query: ItemListQuery): string {
    return `/api/stations/${stationId}/items.csv?${new HttpParams({ fromObject: questionOf(query) }).toString()}`;
  }
  item = (stationId: string, id: string): Promise<ItemCard> => this.get(`/stations/${stationId}/items/${id}`);
  patchItem = (stationId: string, id: string, patch: ItemPatch): Promise<Change> => this.send('PATCH', `/stations/${stationId}/items/${id}`, patch);
  approve = (stationId: string, itemIds: readonly string[], by: string | null): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/approvals`, { itemIds, by });
  itemPlays = (stationId: string, id: string): Promise<ItemPlays> => this.get(`/stations/${stationId}/items/${id}/plays`);
  itemFit = (stationId: string, id: string, date: string): Promise<ItemFit> => this.get(`/stations/${stationId}/items/${id}/fit`, { date });
  proofUrl = (stationId: string, id: string, kind: 'csv' | 'pdf', from: string, to: string): string =>
    `/api/stations/${stationId}/items/${id}/proof.${kind}?${new HttpParams({ fromObject: { from, to } }).toString()}`;
  place = (stationId: string, itemIds: readonly string[], categoryId: string | null): Promise<Change & { moved: number }> =>
    this.send('POST', `/stations/${stationId}/placements`, { itemIds, categoryId });

  bulkPreview = (stationId: string, request: BulkRequest): Promise<BulkPreview> => this.send('POST', `/stations/${stationId}/bulk/preview`, request);
  bulkWrite = (stationId: string, request: BulkRequest): Promise<Change & { changed: number }> =>
    this.send('POST', `/stations/${stationId}/bulk`, request);
  worklist = (stationId: string): Promise<Worklist> => this.get(`/stations/${stationId}/worklist`);
  changeWorklist = (stationId: string, change: Partial<WorklistChange>): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/worklist`, change);
  families = (stationId: string): Promise<FamilyRow[]> => this.get(`/stations/${stationId}/tag-families`);
  createFamily = (stationId: string, name: string): Promise<Created> => this.send('POST', `/stations/${stationId}/tag-families`, { name });
  patchFamily = (stationId: string, id: string, patch: FamilyPatch): Promise<Change> =>
    this.send('PATCH', `/stations/${stationId}/tag-families/${id}`, patch);
  deleteFamily = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/tag-families/${id}?offItems=yes`);
  filterWords = (stationId: string): Promise<FilterWords> => this.get(`/stations/${stationId}/filter-words`);
  pools = (stationId: string): Promise<PoolRow[]> => this.get(`/stations/${stationId}/pools`);
  createPool = (stationId: string, pool: { name: string; filter: string }): Promise<Created> =>
    this.send('POST', `/stations/${stationId}/pools`, pool);
  patchPool = (stationId: string, id: string, patch: { revision: number; name?: string; filter?: string }): Promise<Change> =>
    this.send('PATCH', `/stations/${stationId}/pools/${id}`, patch);
  deletePool = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/pools/${id}`);

  tidy = (stationId: string): Promise<TidyView> => this.get(`/stations/${stationId}/tidy`);
  mergeArtists = (stationId: string, merges: MergeArtists['merges']): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/tidy/merges`, { merges });
  mergeAlbums = (stationId: string, merges: MergeAlbums['merges']): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/tidy/album-merges`, { merges });
  artist = (id: string): Promise<ArtistView> => this.get(`/artists/${id}`);
  renameArtist = (stationId: string, id: string, name: string): Promise<Change> =>
    this.send('PATCH', `/stations/${stationId}/artists/${id}`, { name });
  previewAlias = (stationId: string, id: string, name: string): Promise<AliasPreview> =>
    this.send('POST', `/stations/${stationId}/artists/${id}/aliases/preview`, { name });
  addAlias = (stationId: string, id: string, name: string, merge: boolean): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/artists/${id}/aliases`, { name, merge });
  removeAlias = (stationId: string, id: string, aliasId: string): Promise<Change> =>
    this.send('DELETE', `/stations/${stationId}/artists/${id}/aliases/${aliasId}`);
  splitArtist = (stationId: string, id: string, itemIds: readonly string[], name: string): Promise<Created> =>
    this.send('POST', `/stations/${stationId}/artists/${id}/split`, { itemIds, name });
  refuseDoubles = (stationId: string, keys: readonly string[]): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/tidy/refusals`, { keys });

  setAct = (stationId: string, name: string, one: boolean): Promise<Change> => this.send('POST', `/stations/${stationId}/acts`, { name, one });

  uploadTable(stationId: string, file: File): Promise<ImportSession> {
    const form = new FormData();
    form.append('file', file, file.name);
    return this.send('POST', `/stations/${stationId}/imports`, form);
  }
  openFolder = (stationId: string, folder: string): Promise<ImportSession> => this.send('POST', `/stations/${stationId}/imports/folder`, { folder });
  beginDropped = (stationId: string): Promise<ImportSession> => this.send('POST', `/stations/${stationId}/imports/dropped`);
  /** Sends one audio file of a dropped import under the path the browser knows it by. */
  sendFile(id: string, path: string, file: File): Promise<ImportSession> {
    const form = new FormData();
    form.append('path', path);
    form.append('file', file, file.name);
    return this.send('POST', `/imports/${id}/files`, form);
  }
  chooseOptions = (id: string, options: ImportOptions): Promise<ImportSession> => this.send('PUT', `/imports/${id}/options`, options);
  watchedFolder = (stationId: string): Promise<WatchedFolderView> => this.get(`/stations/${stationId}/watched-folder`);
  watchFolder = (stationId: string, folder: string, categoryId: string | null): Promise<Change> =>
    this.send('PUT', `/stations/${stationId}/watched-folder`, { folder, categoryId });
  unwatchFolder = (stationId: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/watched-folder`);
  importSession = (id: string): Promise<ImportSession> => this.get(`/imports/${id}`);
  configureImport = (id: string, settings: ImportSettings): Promise<ImportSession> => this.send('PUT', `/imports/${id}/settings`, settings);
  dryRun = (id: string): Promise<JobView> => this.send('POST', `/imports/${id}/dry-run`);
  commitImport = (id: string): Promise<JobView> => this.send('POST', `/imports/${id}/commit`);
  closeImport = (id: string): Promise<unknown> => this.send('DELETE', `/imports/${id}`);

  rotation = (stationId: string): Promise<RotationSheet> => this.get(`/stations/${stationId}/rotation`);
  categoryRests = (stationId: string, id: string, order?: string): Promise<CategoryRests> =>
    this.get(`/stations/${stationId}/rotation/${id}`, order ? { order } : {});
  keepPlan = (stationId: string, id: string, plan: RotationPlan): Promise<Change> =>
    this.send('PUT', `/stations/${stationId}/rotation/${id}/plan`, plan);
  dropPlan = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/rotation/${id}/plan`);
  categoryUse = (stationId: string, id: string): Promise<CategoryUse> => this.get(`/stations/${stationId}/categories/${id}/use`);
  mergeCategory = (stationId: string, id: string, into: string): Promise<Change> =>
    this.send('POST', `/stations/${stationId}/categories/${id}/merge`, { into });
  splitCategory = (stationId: string, id: string, made: { name: string; code: string; itemIds: readonly string[] }): Promise<Created> =>
    this.send('POST', `/stations/${stationId}/categories/${id}/split`, made);
  createGroup = (stationId: string, name: string): Promise<Created> => this.send('POST', `/stations/${stationId}/category-groups`, { name });
  renameGroup = (stationId: string, id: string, name: string): Promise<Change> =>
    this.send('PATCH', `/stations/${stationId}/category-groups/${id}`, { name });
  deleteGroup = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/category-groups/${id}`);
  createCategory = (stationId: string, fields: object): Promise<Created> => this.send('POST', `/stations/${stationId}/categories`, fields);
  patchCategory = (stationId: string, id: string, patch: object): Promise<Change> =>
    this.send('PATCH', `/stations/${stationId}/categories/${id}`, patch);
  deleteCategory = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/categories/${id}`);

  createClock = (stationId: string, fields: { name: string; colour: string; lengthMs?: number; lines: readonly ClockLine[] }): Promise<Created> =>
    this.send('POST', `/stations/${stationId}/clocks`, fields);
  saveClock(
    stationId: string,
    clock: { id: string; revision: number; name: string; colour: string; lengthMs: number; lines: readonly ClockLine[] },
    label: string,
  ): Promise<Change> {
    const { id, ...fields } = clock;
    return this.send('PUT', `/stations/${stationId}/clocks/${id}?label=${encodeURIComponent(label)}`, fields);
  }
  deleteClock = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/clocks/${id}`);
  countDraws = (stationId: string, draws: readonly Draw[]): Promise<DrawCount[]> => this.send('POST', `/stations/${stationId}/draws`, { draws });
  saveWeek = (stationId: string, week: object): Promise<Change> => this.send('PUT', `/stations/${stationId}/week`, week);
  createShow = (stationId: string, show: NewShow): Promise<Created> => this.send('POST', `/stations/${stationId}/shows`, show);
  patchShow = (stationId: string, id: string, patch: object): Promise<Change> => this.send('PATCH', `/stations/${stationId}/shows/${id}`, patch);
  deleteShow = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/shows/${id}`);
  createDate = (stationId: string, date: NewDatePlan): Promise<Created> => this.send('POST', `/stations/${stationId}/dates`, date);
  patchDate = (stationId: string, id: string, patch: object): Promise<Change> => this.send('PATCH', `/stations/${stationId}/dates/${id}`, patch);
  deleteDate = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/dates/${id}`);
  staleLogs = (stationId: string): Promise<StaleLog[]> => this.get(`/stations/${stationId}/stale-logs`);

  createRule = (stationId: string, fields: object): Promise<Created> => this.send('POST', `/stations/${stationId}/rules`, fields);
  patchRule = (stationId: string, id: string, patch: object): Promise<Change> => this.send('PATCH', `/stations/${stationId}/rules/${id}`, patch);
  deleteRule = (stationId: string, id: string): Promise<Change> => this.send('DELETE', `/stations/${stationId}/rules/${id}`);

  log = (stationId: string, date: string): Promise<LogView> => this.get(`/stations/${stationId}/logs/${date}`);
  unreadable = (): Promise<UnreadableNote[]> => this.get('/unreadable');
  dismissUnreadable = (id: string): Promise<Change> => this.send('DELETE', `/unreadable/${id}`);
  deskData = (stationId: string, date: string): Promise<DeskData> => this.get(`/stations/${stationId}/logs/${date}/desk`);
  editLog = (stationId: string, date: string, revision: number, edit: HandEdit): Promise<Change & LogView> =>
    this.send('POST', `/stations/${stationId}/logs/${date}/edits`, { revision, edit });
  generate = (
    stationId: string,
    range: { from: string; days: number; only: 'all' | 'open'; seed: number; hours?: readonly number[]; answers?: Record<string, string> },
  ): Promise<JobView> => this.send('POST', `/stations/${stationId}/generate`, range);

  handOver = (stationId: string, date: string): Promise<HandOverState> => this.get(`/stations/${stationId}/hand-over/${date}`);
  previewHandOver = (stationId: string, date: string, settings: HandOverSettings): Promise<HandOverPreview> =>
    this.send('POST', `/stations/${stationId}/hand-over/preview`, { date, ...settings });
  writeHandOver = (stationId: string, date: string, settings: HandOverSettings): Promise<HandOverRecord> =>
    this.send('POST', `/stations/${stationId}/hand-over`, { date, ...settings });
  downloadUrl(stationId: string, date: string, { pattern, hourly }: HandOverSettings): string {
    return `/api/stations/${stationId}/hand-over/${date}/download?pattern=${encodeURIComponent(pattern)}&hourly=${hourly}`;
  }

  aired = (stationId: string, date: string): Promise<AiredPlay[]> => this.get(`/stations/${stationId}/logs/${date}/aired`);
  activity = (stationId: string, limit: number, client?: string): Promise<ActivityRow[]> =>
    this.get('/activity', { limit, station: stationId, ...(client ? { client } : {}) });
  undo = (activityId: string): Promise<Change> => this.send('POST', `/activity/${activityId}/undo`);
  cancelJob = (id: string): Promise<JobView> => this.send('DELETE', `/jobs/${id}`);
}

/** What of a question stands in an address. */
function questionOf({ q, category, artist, sort, dir }: ItemListQuery): Record<string, string> {
  return { ...(q ? { q } : {}), ...(category ? { category } : {}), ...(artist ? { artist } : {}), sort, dir };
}

function asApiError(error: unknown): ApiError {
  if (error instanceof HttpErrorResponse) {
    const answer = error.error as Partial<ErrorAnswer> | null;
    if (answer?.code && answer.message) return new ApiError(answer.code, answer.message, answer.field);
    if (error.status === 0)
      return new ApiError('OFFLINE', 'The server does not answer. What you typed is still here; try again in a moment.', undefined);
  }
  return new ApiError('UNEXPECTED', 'Something unexpected went wrong.', undefined);
}
