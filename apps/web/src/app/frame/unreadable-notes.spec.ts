import { describe, expect, it } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import type { UnreadableNote } from '@fuller/contracts';
import { Api } from '../shared/api/api';
import { Changes } from '../state/changes';
import { UnreadableNotes } from './unreadable-notes';

describe('notes of what could not be read', () => {
  const open = async (notes: UnreadableNote[], fails = false) => {
    const dismissed: string[] = [];
    const api = {
      unreadable: () => (fails ? Promise.reject(new Error('gone')) : Promise.resolve([...notes])),
      dismissUnreadable: ({ id }: { id: string }) => {
        dismissed.push(id);
        notes = notes.filter((note) => note.id !== id);
        return Promise.resolve({ activityId: 'x', label: '' });
      },
    };
    TestBed.configureTestingModule({
      providers: [
        { provide: Api, useValue: api },
        { provide: Changes, useValue: { run: (sending: Promise<unknown>) => sending } },
      ],
    });
    const fixture = TestBed.createComponent(UnreadableNotes);
    const settle = async (): Promise<void> => {
      await fixture.whenStable();
      await new Promise((resolve) => setTimeout(resolve));
      fixture.detectChanges();
    };
    await settle();
    return { host: fixture.nativeElement as HTMLElement, settle, dismissed };
  };

  it('stand one below the other until each is dismissed', async () => {
    const { host, settle, dismissed } = await open([
      { id: 'a', text: 'The lines of clock “Drive” could not be read.' },
      { id: 'b', text: 'The log of 2026-11-24 could not be read.' },
    ]);
    expect(host.querySelectorAll('p-message')).toHaveLength(2);
    host.querySelector<HTMLButtonElement>('p-message button')!.click();
    await settle();
    await settle();
    expect(dismissed).toEqual(['a']);
    expect(host.textContent).not.toContain('Drive');
    expect(host.textContent).toContain('2026-11-24');
  });

  it('are nothing to see where there are none, or the server does not answer', async () => {
    expect((await open([])).host.querySelector('p-message')).toBeNull();
    TestBed.resetTestingModule();
    expect((await open([], true)).host.querySelector('p-message')).toBeNull();
  });
});
