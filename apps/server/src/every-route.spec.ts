import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { PLAIN_LAYOUT } from '@fuller/core';
import { ENDPOINTS } from '@fuller/contracts';
import * as v from 'valibot';
import { asker, type Answer } from './testing/asker.js';
import { IS_SHARED } from './testing/database.js';
import { endOfJob, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';
import { rowsOf } from './db/queries/query.js';
import { ItemEntity } from './db/entities/index.js';

/** Every address of the API is asked once, and its answer held against what the table of endpoints promises. */
let server: TestServer;
const { ask, asked } = asker(() => server);

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const VALE = { stationId: 'vale' };
const ONE = (id: string) => ({ ...VALE, id });
const DAY = { ...VALE, date: TOMORROW };

const catalogue = async () => (await ask('catalogue', VALE)) as unknown as { week: Answer };

it('lists stations and what they share', async () => {
  await ask('health');
  await ask('stations');
  await ask('catalogue', VALE);
  await ask('unreadable');
});

it('makes and changes stations, and shares things between them', async () => {
  const { id } = await ask('createStation', {}, { name: 'Radio Weir', timeZone: 'Europe/Dublin' });
  await ask('updateStation', { id }, { revision: 1, archived: true });
  const day = { ...VALE, kind: 'clock', id: 'day' };
  await ask('sharing', day);
  await ask('share', day);
  await ask('makeOwn', day, {});
  await ask('search', { q: 'day' });
});

it('makes reports and keeps them', async () => {
  const range = { ...VALE, report: 'songs', range: 'last 7 days' };
  await ask('report', range);
  await ask('reportCsv', range);
  await ask('reportPdf', range);
  const asked = { range: 'last week', daypartId: null, stationIds: [], categoryId: null, family: null };
  const { id } = await ask('createKeptReport', VALE, { name: 'Monday', report: 'rest', asked });
  await ask('keptReports', VALE);
  await ask('patchKeptReport', ONE(id), { revision: 1, name: 'Mondays' });
  await ask('deleteKeptReport', ONE(id));
});

it('makes forecasts, keeps what they change and drops them', async () => {
  const changes = [{ kind: 'move', songs: ['song9'], to: null }];
  const job = (await ask('startForecast', VALE, { weeks: 1, changes })) as unknown as { id: string };
  await endOfJob(server, job.id);
  await ask('forecasts', VALE);
  await ask('forecast', ONE(job.id));
  const { activityId } = (await ask('keepForecast', ONE(job.id), {})) as unknown as { activityId: string };
  await server.api.post(`/api/activity/${activityId}/undo`).expect(200);
  await ask('dropForecast', ONE(job.id));
});

it('begins a station with songs it has', async () => {
  const night = { stationId: 'night' };
  const { axes } = (await ask('begin', night)) as unknown as { axes: { key: string; proposed: object[] }[] };
  const made: string[] = [];
  const make = async (name: 'beginCategories' | 'beginSetUp' | 'beginLengths', body: object): Promise<void> =>
    void made.push(((await ask(name, night, body)) as unknown as { activityId: string }).activityId);
  await server.services.store.writeUnrecorded((em) => em.nativeUpdate(ItemEntity, { id: 'song1' }, { durationMs: 0 }));
  await make('beginLengths', { durationMs: 200_000 });
  await make('beginCategories', { axis: axes[0]!.key, parts: axes[0]!.proposed });
  await ask('proposedSetUp', { ...night, breaks: '0' });
  await make('beginSetUp', { breaks: 0 });
  for (const id of made.reverse()) await server.api.post(`/api/activity/${id}/undo`).expect(200);
});

it('adds, changes and deletes sponsors and what was agreed', async () => {
  const made = await ask('createSponsor', VALE, {
    name: 'Bakery',
    promises: [{ count: 2, per: 'day', daypartId: null }],
  });
  await ask('sponsorWeek', { ...VALE, date: TOMORROW });
  await ask('promiseShortfalls', { ...VALE, from: TOMORROW, to: TOMORROW });
  await ask('setSponsorSettings', VALE, { revision: 0, rivalsApartMinutes: 30, mostPerHour: 2 });
  await ask('patchSponsor', ONE(made.id), { revision: 1, product: 'FOOD' });
  await ask('deleteSponsor', ONE(made.id));
});

it('makes, fills, exports and deletes set lists', async () => {
  const made = await ask('createSetList', VALE, { name: 'Evening' });
  const insert = [{ id: 'a', itemId: 'song1' }];
  await ask('editSetList', ONE(made.id), { revision: 1, edit: [{ at: 0, remove: 0, insert }] });
  await ask('setLists', VALE);
  await ask('setList', ONE(made.id));
  await ask('setListFile', { ...ONE(made.id), format: 'xspf' });
  await ask('matchItems', VALE, { rows: [{ title: '', artist: '', cart: 'C1', file: '' }] });
  await ask('patchSetList', ONE(made.id), { revision: 2, wantedMs: 3_600_000 });
  await ask('deleteSetList', ONE(made.id));
});

it('makes, changes and deletes categories, groups, tags and pools', async () => {
  const group = await ask('createGroup', VALE, { name: 'Speech' });
  await ask('renameGroup', ONE(group.id), { name: 'Talk' });
  const made = await ask('createCategory', VALE, {
    name: 'New',
    code: 'N',
    colour: '#224466',
    music: true,
    groupId: group.id,
  });
  await ask('patchCategory', ONE(made.id), { revision: 1, name: 'Newer' });
  await ask('categoryUse', ONE('gold'));
  await ask('splitCategory', ONE('gold'), { name: 'Half', code: 'H', itemIds: ['song1', 'song2'] });
  const spare = await ask('createCategory', VALE, {
    name: 'Spare',
    code: 'S',
    colour: '#224466',
    music: true,
    groupId: null,
  });
  await ask('mergeCategory', ONE(spare.id), { into: made.id });
  await ask('deleteCategory', ONE(made.id));
  await ask('deleteGroup', ONE(group.id));
  const family = await ask('createFamily', VALE, { name: 'Feel' });
  await ask('patchFamily', ONE(family.id), {
    revision: 1,
    values: [{ was: null, value: 'calm', code: '', colour: null }],
  });
  await ask('families', VALE);
  await ask('deleteFamily', { ...ONE(family.id), offItems: 'yes' });
  const pool = await ask('createPool', VALE, { name: 'Eighties', filter: 'year:1980..1989' });
  await ask('patchPool', ONE(pool.id), { revision: 1, name: 'The eighties' });
  await ask('pools', VALE);
  await ask('filterWords', VALE);
  await ask('deletePool', ONE(pool.id));
});

it('reads and changes the library', async () => {
  await ask('items', { ...VALE, q: 'réalta', sort: 'year', limit: '5' });
  await ask('itemsCsv', VALE);
  await ask('item', ONE('song3'));
  await ask('patchItem', ONE('song3'), { revision: 1, notes: 'Heard at the fair' });
  await ask('setAct', VALE, { name: 'Artist 1 & Artist 2', one: true });
  await ask('place', VALE, { itemIds: ['song57'], categoryId: 'fresh' });
  await ask('approve', VALE, { itemIds: ['song57'], by: 'Nora' });
  await ask('bulkPreview', VALE, { itemIds: ['song4'], edit: { do: 'set', field: 'year', value: 1999 } });
  await ask('bulkWrite', VALE, { itemIds: ['song4'], edit: { do: 'set', field: 'year', value: 1999 } });
  await ask('changeWorklist', VALE, { add: ['song5'] });
  await ask('worklist', VALE);
  await ask('itemPlays', ONE('song3'));
  await ask('itemFit', { ...ONE('song3'), date: TOMORROW });
  for (const name of ['proof', 'proofCsv', 'proofPdf'] as const)
    await ask(name, { ...ONE('song3'), from: TODAY, to: TODAY });
  await writeFile(path.join(server.services.folders.audio, 'song1.wav'), new Uint8Array(100));
  await ask('audio', { id: 'song1' });
});

it('has a picture only of what has one', async () => {
  asked.add('artwork');
  expect((await server.api.get('/api/items/song1/artwork')).status).toBe(404);
});

it('tidies artists and albums', async () => {
  await ask('tidy', VALE);
  const artist = (
    await rowsOf<{ id: string }>(server.services.store.read, 'select id from artist order by name limit 6')
  ).map(({ id }) => id);
  await ask('artist', { id: artist[0]! });
  await ask('renameArtist', ONE(artist[0]!), { name: 'The Weir Band' });
  await ask('previewAlias', ONE(artist[0]!), { name: 'Vale Four' });
  await ask('addAlias', ONE(artist[0]!), { name: 'Vale Four' });
  const [alias] = await rowsOf<{ id: string }>(server.services.store.read, 'select id from artist_alias limit 1');
  await ask('removeAlias', { ...ONE(artist[0]!), aliasId: alias!.id });
  await ask('mergeArtists', VALE, { merges: [{ keep: artist[1]!, others: [artist[2]!] }] });
  const [song] = await rowsOf<{ id: string }>(
    server.services.store.read,
    'select item_id as id from credit where artist_id = ? limit 1',
    [artist[1]!],
  );
  await ask('splitArtist', ONE(artist[1]!), { itemIds: [song!.id], name: 'Another of that name' });
  const [credit] = await rowsOf<{ artistId: string; album: string }>(
    server.services.store.read,
    'select c.artist_id as "artistId", min(i.album) as album from credit c join item i on i.id = c.item_id group by 1 having count(distinct i.album) > 1 limit 1',
  );
  const albums = await rowsOf<{ album: string }>(
    server.services.store.read,
    'select distinct i.album from credit c join item i on i.id = c.item_id where c.artist_id = ? order by 1',
    [credit!.artistId],
  );
  await ask('mergeAlbums', VALE, {
    merges: [{ artistId: credit!.artistId, keep: albums[0]!.album, others: [albums[1]!.album] }],
  });
  await ask('refuseDoubles', VALE, { keys: ['artist a|b'] });
});

it('plans clocks, the week, shows, dates and rules', async () => {
  const clock = await ask('createClock', VALE, { name: 'Talk', colour: '#224466' });
  await ask(
    'saveClock',
    { ...ONE(clock.id), label: 'Name a clock' },
    { revision: 1, name: 'Long talk', colour: '#224466', lengthMs: 3_600_000, lines: [] },
  );
  await ask('countDraws', VALE, { draws: [{ categoryId: 'gold', filter: 'year:1980..' }] });
  const show = await ask('createShow', VALE, { name: 'Market', colour: '#224466', clockIds: [clock.id], minutes: 60 });
  await ask('patchShow', ONE(show.id), { revision: 1, minutes: 90 });
  const date = await ask('createDate', VALE, {
    name: 'Fair',
    start: TOMORROW,
    blocks: [{ at: 600, minutes: 60, runs: 'show', id: show.id }],
  });
  await ask('patchDate', ONE(date.id), { revision: 1, name: 'Winter fair' });
  const { week } = await catalogue();
  await ask('saveWeek', VALE, { revision: week.revision, blocks: [{ at: 60, minutes: 60, runs: 'clock', id: 'day' }] });
  const rule = await ask('createRule', VALE, { shape: 'streak', tag: 'album', amount: 2 });
  await ask('patchRule', ONE(rule.id), { revision: 1, amount: 3 });
  const early = await ask('createDaypart', VALE, { name: 'Early', hours: '1'.repeat(6).padEnd(168, '0') });
  const late = await ask('createDaypart', VALE, { name: 'Late', hours: '1'.repeat(6).padStart(168, '0') });
  await ask('patchDaypart', ONE(early.id), { revision: 1, name: 'Small hours' });
  await ask('patchRule', ONE(rule.id), {
    revision: 2,
    exceptions: [{ kind: 'daypart', id: early.id, amount: 5 }],
  });
  await ask('copyRules', VALE, { kind: 'daypart', from: early.id, to: late.id });
  await ask('rulesGround', VALE);
  const file = await ask('rulesFile', VALE);
  await ask('takeRulesFile', VALE, { file, replace: true });
  await ask('deleteRule', ONE(((await catalogue()) as unknown as { rules: Answer[] }).rules[0]!.id));
  await ask('deleteDaypart', ONE(early.id));
  // A log that exceeds the limits is mended in limits.spec.
  asked.add('mendLimits');
  await ask('setLimits', VALE, { applies: true, strict: true, exemptAlbums: ['Album 1'], revision: 0 });
  await ask('checkFile', VALE, { name: 'a.csv', content: btoa('title,artist\nOne,A\n'), strict: false });
  await ask('deleteDate', ONE(date.id));
  await ask('deleteShow', ONE(show.id));
  await ask('deleteClock', ONE(clock.id));
});

it('generates, shows and edits logs, and hands them over', async () => {
  const job = await ask('generate', VALE, { from: TOMORROW, days: 1, seed: 2 });
  expect((await endOfJob(server, job.id)).state).toBe('done');
  await ask('jobs');
  await ask('cancelJob', { id: job.id });
  await ask('days', { ...VALE, from: TODAY });
  await ask('logRuns', DAY);
  await ask('checkDays', { ...VALE, from: TOMORROW });
  const view = (await ask('log', DAY)) as unknown as {
    revision: number;
    log: { hours: { entries: { id: string; kind: string }[] }[] };
  };
  const [one, other] = view.log.hours[5]!.entries.filter(({ kind }) => kind === 'pick');
  const swapped = await ask('editLog', DAY, {
    revision: view.revision,
    edit: { type: 'swap', entryId: one!.id, withId: other!.id },
  });
  await ask('editLog', DAY, { revision: swapped.revision, edit: { type: 'open', entryId: one!.id } });
  await ask('importTraffic', DAY, { text: '06:12:00\t30\tSP1\tBAKERY\n06:12:00\t20\tSP2\tSHOP\n', dryRun: true });
  await ask('traffic', DAY);
  await ask('setTraffic', VALE, { revision: 0, toleranceMs: 60_000, layoutId: null, folder: null, automatic: false });
  await ask('trafficSetUp', VALE);
  await ask('saveLayout', ONE('desk'), { name: 'Desk', layout: PLAIN_LAYOUT, revision: 0 });
  await ask('removeLayout', ONE('desk'));
  asked.add('moveSpot').add('importWaiting');
  await ask('onAir', VALE);
  await ask('setOnAir', VALE, { revision: 0, playerUrl: null, lateMs: 60_000, acceptAll: false });
  const asRun = { text: 'start,title\n00:00:30,Réalta 1\n', fileName: 'a.csv', layout: null };
  await ask('importAsRun', DAY, { ...asRun, dryRun: true });
  await ask('importAsRun', DAY, { ...asRun, dryRun: false });
  const { revision: known } = await ask('asRun', DAY);
  await ask('decideAsRun', DAY, { revision: known, all: 'accepted' });
  const span = { ...VALE, from: TOMORROW, to: TOMORROW };
  await ask('sponsors', span);
  for (const name of ['sponsorProof', 'sponsorProofCsv', 'sponsorProofPdf'] as const)
    await ask(name, { ...span, sponsor: 'BAKERY' });
  const limits = { perListener: 2, perHour: 6, requestsUrl: null };
  const queue = { ...limits, mode: 'clocks', loopClockId: null, depthUnit: 'items', depth: 5 };
  await ask('setRolling', VALE, { ...queue, revision: 0 });
  await ask('editQueue', VALE, { do: 'add', itemId: 'song1', beforeId: null });
  await ask('rolling', VALE);
  await ask('askForSong', VALE, { listener: 'Una', title: 'Realta 5', artist: '' });
  await ask('requests', VALE);
  // Without a player they are refused, as is tested where there is one.
  asked.add('commandPlayer').add('takeAir');
  await ask('deskData', DAY);
  await ask('aired', { ...VALE, date: TODAY });
  await ask('staleLogs', VALE);
  await ask('handOver', DAY);
  const settings = { date: TOMORROW, pattern: '{station}_{date}_{hour}', hourly: true };
  await ask('previewHandOver', VALE, settings);
  await ask('writeHandOver', VALE, settings);
  await ask('takeHandOver', VALE, settings);
  const { date: _date, ...files } = settings;
  const target = { kind: 'folder', folder: 'other' };
  await ask('saveOutput', ONE('out'), { revision: 0, name: 'Playout', files, target, nightly: null, password: 'x' });
  const output = { ...DAY, id: 'out' };
  await ask('downloadHandOver', output);
  expect((await endOfJob(server, (await ask('writeOutput', output)).id)).state).toBe('done');
  const { records } = (await ask('handOver', DAY)) as unknown as { records: { id: string }[] };
  await ask('handOverChanges', { ...DAY, id: records[0]!.id });
  await ask('removeOutput', ONE('out'));
});

it('previews, keeps and restores versions, runs attended, prints, and tells who is where', async () => {
  const preview = (await ask('generate', VALE, { from: TOMORROW, seed: 4, preview: true })).id;
  expect((await endOfJob(server, preview)).state).toBe('done');
  await ask('previewDays', ONE(preview));
  await ask('acceptPreview', ONE(preview), { date: TOMORROW, hours: [3] });
  await ask('dropPreview', ONE(preview));
  const version = await ask('keepVersion', DAY);
  await ask('versions', DAY);
  await ask('version', { ...DAY, versionId: version.id });
  const restored = await ask('restoreVersion', DAY, {
    revision: (await ask('log', DAY)).revision,
    versionId: version.id,
    hours: [3],
  });
  await ask('printLog', { ...DAY, layout: 'sheet', hours: '3,4', marks: 'no' });
  const { run } = (await ask('beginAttended', DAY, {
    scope: 'all',
    ask: { everySlot: true },
    revision: restored.revision,
  })) as unknown as { run: Answer };
  await ask('attended', DAY);
  await ask('stepAttended', ONE(run.id), { do: 'end', decisions: 0 });
  await ask('tellPresence', VALE, { date: TOMORROW, entryId: null });
});

it('shows rotation and keeps plans for it', async () => {
  await ask('rotation', VALE);
  await ask('categoryRests', { ...ONE('gold'), order: 'shuffle' });
  await ask('keepPlan', ONE('gold'), { items: 40, slotsPerWeek: 300 });
  await ask('dropPlan', ONE('gold'));
  await ask('planMove', ONE('song4'), { planned: { kind: 'on', date: TODAY, to: null } });
  await ask('itemLife', ONE('song4'));
  await ask('moves', VALE);
  const { activityId } = (await ask('carryOutMoves', VALE, {})) as unknown as { activityId: string };
  await server.api.post(`/api/activity/${activityId}/undo`).expect(200);
});

it('imports tables and audio, and watches a folder', async () => {
  asked.add('uploadTable');
  const { body: table } = await server.api
    .post('/api/stations/vale/imports')
    .attach('file', Buffer.from('title,artist,duration\nHarbour,Nora Weir,3:10\n'), 'songs.csv')
    .expect(200);
  v.parse(ENDPOINTS.uploadTable.answer, table);
  await ask('configureImport', { id: table.id }, table.settings);
  await ask('importSession', { id: table.id });
  expect((await endOfJob(server, (await ask('dryRun', { id: table.id }, {})).id)).state).toBe('done');
  expect((await endOfJob(server, (await ask('commitImport', { id: table.id }, {})).id)).state).toBe('done');
  await ask('closeImport', { id: table.id });
  const dropped = await ask('beginDropped', VALE);
  asked.add('sendFile');
  const { body: sent } = await server.api
    .post(`/api/imports/${dropped.id}/files`)
    .field('path', 'a.wav')
    .attach('file', Buffer.alloc(100), 'a.wav')
    .expect(200);
  v.parse(ENDPOINTS.sendFile.answer, sent);
  await ask('chooseOptions', { id: dropped.id }, { makeCategories: true, folderCategories: false });
  const folder = server.services.folders.audio;
  await ask('openFolder', VALE, { folder });
  await ask('watchFolder', VALE, { folder, categoryId: null });
  await ask('watchedFolder', VALE);
  await ask('unwatchFolder', VALE);
});

it('tells what was done, and undoes it', async () => {
  const [latest] = (await ask('activity', { limit: '5', station: 'vale' })) as unknown as Answer[];
  await ask('activityChanges', { id: latest!.id });
  await ask('undo', { id: latest!.id });
  await ask('setActivity', {}, { keptDays: 90 });
  await ask('activitySettings');
  await server.services.store.write({ clientId: 'test', stationId: null, label: 'Note' }, async (changes) => {
    await changes.insert('unreadableNote', [{ id: '1', text: 'The week could not be read.' }]);
  });
  await ask('dismissUnreadable', { id: '1' });
});

it('makes accounts and tokens, and ends sessions', async () => {
  await ask('session');
  const nell = { name: 'Nell', password: 'four lanes of rain' };
  await ask('makeFirst', {}, nell);
  await ask('signIn', {}, nell);
  await ask('ownSessions');
  await ask('endOwnSession', { id: 'no-such-one' });
  await ask('endOwnSessions', {}, {});
  const roles = [{ stationId: 'vale', role: 'viewer', showIds: [] }];
  const { id } = await ask('createPerson', {}, { name: 'Ivo', password: 'three lanes of mist', roles });
  await ask('people');
  await ask('patchPerson', { id }, { revision: 1, name: 'Ivo Marsh' });
  await ask('resetPassword', { id }, { password: 'two lanes of hail' });
  await ask('personSessions', { id });
  await ask('endSessions', { id });
  await ask('removePerson', { id });
  const token = await ask('createToken', {}, { name: 'Night', rights: ['look'], stationIds: null, days: null });
  await ask('tokens');
  await ask('removeToken', { id: token.id });
  await ask('signOut', {}, {});
  // Where nobody signs in these have nothing to do; people.spec asks them.
  asked.add('signInDemo').add('goWithout').add('changePassword');
});

it('makes, checks and restores backups, and looks after the data', async () => {
  await ask('backups');
  await ask('setBackups', {}, { nightlyAt: null, kept: 3, folder: '' });
  await ask('checkData');
  await ask('mendData', {}, {});
  if (IS_SHARED)
    return void ['makeBackup', 'checkBackup', 'downloadBackup', 'restoreBackup'].forEach((name) => asked.add(name));
  const { name } = (await ask('makeBackup', {}, {})) as unknown as { name: string };
  await ask('checkBackup', { id: name });
  await ask('downloadBackup', { id: name });
  await ask('restoreBackup', { id: name }, {});
});

it('leaves no address out', () => {
  // A stream of events has an end only when who listens leaves; its test is in system.spec.ts.
  asked.add('events');
  expect(Object.keys(ENDPOINTS).filter((name) => !asked.has(name))).toEqual([]);
});
