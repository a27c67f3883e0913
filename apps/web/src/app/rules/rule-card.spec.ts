import { describe, expect, it } from '@jest/globals';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Catalogue, RuleRow } from '@fuller/contracts';
import { provideState, provideStore, Store } from '@ngrx/store';
import { catalogueActions, catalogueFeature } from '../state/catalogue.feature';
import { ruleRow } from '../testing/rows';
import { RuleCard, type RuleChange } from './rule-card';

const rule: RuleRow = ruleRow('r', { exceptions: [{ kind: 'category', id: 'gold', amount: 3600 }] });

async function show(one: RuleRow) {
  TestBed.configureTestingModule({
    providers: [provideZonelessChangeDetection(), provideStore(), provideState(catalogueFeature)],
  });
  const catalogue = {
    station: { id: 'vale', name: 'Vale', frequency: '', timeZone: 'UTC', today: '2026-11-24' },
    categories: [{ id: 'gold', name: 'Gold', position: 1 }],
    clocks: [],
    shows: [],
    dates: [],
    rules: [one],
    groups: [],
    families: [{ id: 'Tempo', name: 'Tempo', values: ['slow', 'fast'] }],
  } as unknown as Catalogue;
  TestBed.inject(Store).dispatch(catalogueActions.loaded({ catalogue }));
  const fixture = TestBed.createComponent(RuleCard);
  fixture.componentRef.setInput('rule', one);
  const changes: RuleChange[] = [];
  fixture.componentInstance.change.subscribe((change) => changes.push(change));
  await fixture.whenStable();
  const host = fixture.nativeElement as HTMLElement;
  const type = async (field: HTMLInputElement, text: string) => {
    field.dispatchEvent(new Event('focus'));
    field.value = text;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new Event('blur'));
    await fixture.whenStable();
  };
  return { host, changes, type, fixture };
}

describe('the card of a rule', () => {
  it('edits a separation by its parts, and keeps what is refused in its field with the reason', async () => {
    const { host, changes, type } = await show(rule);
    const distance = host.querySelector<HTMLInputElement>('[aria-label="Distance"]')!;
    expect(distance.value).toBe('90 min');
    await type(distance, '2 h');
    await type(distance, 'soonish');
    expect(changes).toEqual([{ amount: 7200 }]);
    expect(distance.value).toBe('soonish');
    expect(host.querySelector('[role=alert]')?.textContent).toContain('“soonish” is not a time');
  });

  it('changes and removes the distance of a category', async () => {
    const { host, changes, type } = await show(rule);
    await type(host.querySelector<HTMLInputElement>('[aria-label="Distance in Gold"]')!, '30 min');
    host.querySelector<HTMLButtonElement>('[aria-label="Remove the exception in Gold"]')!.click();
    expect(changes).toEqual([{ exceptions: [{ kind: 'category', id: 'gold', amount: 1800 }] }, { exceptions: [] }]);
  });

  it('edits every other shape as the sentence it is', async () => {
    const streak: RuleRow = { ...rule, shape: 'streak', tag: 'Tempo', value: 'slow', amount: 2, exceptions: [] };
    const { host, changes, type } = await show(streak);
    const sentence = host.querySelector<HTMLInputElement>('[aria-label="The rule as a sentence"]')!;
    expect(sentence.value).toBe('At most 2 of tempo slow in a row');
    await type(sentence, 'at most 3 fast in a row');
    expect(changes).toEqual([expect.objectContaining({ shape: 'streak', value: 'fast', amount: 3 })]);
    await type(sentence, 'at most many fast in a row');
    expect(changes).toHaveLength(1);
    expect(host.querySelector('[role=alert]')?.textContent).toContain('Say how many');
  });

  it('shows the exceptions of every other shape below its sentence, which can still be edited', async () => {
    const streak: RuleRow = { ...rule, shape: 'streak', tag: 'Tempo', value: 'slow', amount: 2 };
    const own = { ...streak, exceptions: [{ kind: 'category' as const, id: 'gold', amount: 3 }] };
    const { host, changes, type } = await show(own);
    const sentence = host.querySelector<HTMLInputElement>('[aria-label="The rule as a sentence"]')!;
    expect(sentence.value).toBe('At most 2 of tempo slow in a row');
    expect(host.querySelector('.exception')?.textContent).toMatch(/in Gold\s+3/);
    await type(sentence, 'At most 4 of tempo slow in a row');
    expect(changes).toEqual([expect.objectContaining({ shape: 'streak', amount: 4 })]);
    expect(changes[0]).not.toHaveProperty('exceptions');
  });

  it('makes a wish of what can be a wish alone', async () => {
    const atMost: RuleRow = { ...rule, shape: 'atMost', tag: 'Tempo', value: 'slow', amount: 4, exceptions: [] };
    const { host, changes, type } = await show(atMost);
    await type(
      host.querySelector<HTMLInputElement>('[aria-label="The rule as a sentence"]')!,
      'at least 2 slow an hour',
    );
    expect(changes[0]).toMatchObject({ shape: 'atLeast', amount: 2, strength: 'soft', rank: 1 });
  });

  it('rests and goes by its buttons', async () => {
    const { host, changes, fixture } = await show(rule);
    let removed = 0;
    fixture.componentInstance.remove.subscribe(() => removed++);
    [...host.querySelectorAll('button')].find((button) => button.textContent?.includes('Rest'))!.click();
    host.querySelector<HTMLButtonElement>('[aria-label^="Delete the rule"]')!.click();
    expect([changes, removed]).toEqual([[{ resting: true }], 1]);
  });
});
