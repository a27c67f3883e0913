import * as v from 'valibot';
import { BackupFacts, BackupRow, Backups, BackupSettings, CareFinding, OneBackup, Restored } from '../care.js';
import { endpoint } from './endpoint.js';

export const careEndpoints = {
  backups: endpoint({
    method: 'get',
    path: '/backups',
    summary: 'The backups there are, and when they are made',
    right: 'care',
    answer: Backups,
  }),
  makeBackup: endpoint({
    method: 'post',
    path: '/backups',
    summary: 'Make a backup now, while everybody goes on working',
    right: 'care',
    answer: BackupRow,
  }),
  setBackups: endpoint({
    method: 'put',
    path: '/backups',
    summary: 'Set when backups are made, how many are kept and where',
    right: 'care',
    body: BackupSettings,
    answer: v.object({}),
  }),
  checkBackup: endpoint({
    method: 'get',
    path: '/backups/:id',
    summary: 'What a backup holds, and whether it can be restored',
    right: 'care',
    params: OneBackup,
    answer: BackupFacts,
  }),
  downloadBackup: endpoint({
    method: 'get',
    path: '/backups/:id/file',
    summary: 'The file of a backup',
    right: 'care',
    params: OneBackup,
  }),
  restoreBackup: endpoint({
    method: 'post',
    path: '/backups/:id/restore',
    summary: 'Put a backup in place of the data; what is there now is backed up first',
    right: 'care',
    params: OneBackup,
    answer: Restored,
    errors: ['CONFLICT'],
  }),
  checkData: endpoint({
    method: 'get',
    path: '/care',
    summary: 'What does not add up in the data',
    right: 'care',
    answer: v.array(CareFinding),
  }),
  mendData: endpoint({
    method: 'post',
    path: '/care',
    summary: 'Mend what loses nothing by it; what is left',
    right: 'care',
    answer: v.array(CareFinding),
  }),
};
