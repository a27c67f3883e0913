import { describe, expect, it } from '@jest/globals';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Select } from 'primeng/select';
import { By } from '@angular/platform-browser';
import { Choice } from './choice';

const OPTIONS = [
  { value: 'soft', label: 'soft: when what is before it has ended' },
  { value: 'hard', label: 'hard: at that second' },
];

async function show(inputs: Record<string, unknown>) {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(Choice);
  for (const [name, value] of Object.entries({ options: OPTIONS, value: 'soft', ...inputs }))
    fixture.componentRef.setInput(name, value);
  const chosen: string[] = [];
  fixture.componentInstance.chosen.subscribe((one) => chosen.push(one));
  await fixture.whenStable();
  const box = (): HTMLElement => (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('[role=combobox]')!;
  const choose = async (value: string): Promise<void> => {
    const select = fixture.debugElement.query(By.directive(Select)).componentInstance as Select;
    select.onOptionSelect(
      new Event('click'),
      OPTIONS.find((one) => one.value === value),
    );
    await fixture.whenStable();
    await new Promise((resolve) => setTimeout(resolve));
    await fixture.whenStable();
  };
  return { fixture, box, choose, chosen };
}

describe('a choice', () => {
  it('shows what is chosen under its label, and tells another choice once', async () => {
    const { box, choose, chosen } = await show({ fieldId: 'start', label: 'Start' });
    expect(box().id).toBe('start');
    expect(box().getAttribute('aria-label')).toBe('Start');
    expect(box().textContent).toContain('soft');
    await choose('hard');
    expect(chosen).toEqual(['hard']);
    expect(box().textContent).toContain('hard');
  });

  it('follows what it is given, also back', async () => {
    const { fixture, box, choose } = await show({});
    await choose('hard');
    fixture.componentRef.setInput('value', 'hard');
    await fixture.whenStable();
    fixture.componentRef.setInput('value', 'soft');
    await fixture.whenStable();
    expect(box().textContent).toContain('soft');
  });

  it('that does something goes back to its placeholder, so that the same can be done again', async () => {
    const { box, choose, chosen } = await show({ value: null, once: true, placeholder: 'Choose…' });
    await choose('hard');
    expect(box().textContent).toContain('Choose…');
    await choose('hard');
    expect(chosen).toEqual(['hard', 'hard']);
  });
});
