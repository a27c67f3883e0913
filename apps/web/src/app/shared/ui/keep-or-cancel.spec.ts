import { describe, expect, it } from '@jest/globals';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { KeepOrCancel } from './keep-or-cancel';

@Component({
  imports: [KeepOrCancel],
  template: `<input #kept="kept" [fKeepOrCancel]="keep" [value]="name()" />
    <textarea [fKeepOrCancel]="keep"></textarea>
    <p>{{ kept.refused() }}</p>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Host {
  readonly name = signal('Gold');
  readonly sent: string[] = [];
  readonly keep = async (text: string): Promise<string | null> => {
    this.sent.push(text);
    return text === 'Taken' ? 'There is a “Taken” already.' : null;
  };
}

describe('a field that is kept when it is left', () => {
  const open = () => {
    const fixture = TestBed.createComponent(Host);
    fixture.detectChanges();
    document.body.append(fixture.nativeElement);
    const field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    const press = (key: string) => field.dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }));
    const type = (text: string) => {
      field.value = text;
      field.dispatchEvent(new Event('input'));
    };
    const settle = async () => {
      await Promise.resolve();
      fixture.detectChanges();
    };
    return { fixture, field, press, type, settle, host: fixture.componentInstance };
  };

  it('keeps with Enter, and gives the old text back with Escape', async () => {
    const { field, press, type, settle, host } = open();
    field.focus();
    type('Silver');
    press('Escape');
    await settle();
    expect([field.value, host.sent]).toEqual(['Gold', []]);
    field.focus();
    type(' Silver ');
    press('Enter');
    await settle();
    expect(host.sent).toEqual(['Silver']);
    expect(document.activeElement).not.toBe(field);
  });

  it('keeps several lines with Ctrl and Enter, as Enter alone begins another line', async () => {
    const { fixture, settle, host } = open();
    const area = (fixture.nativeElement as HTMLElement).querySelector('textarea')!;
    area.focus();
    area.value = 'Two\nlines';
    const enter = (ctrlKey: boolean) =>
      area.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', ctrlKey, cancelable: true }));
    enter(false);
    await settle();
    expect([document.activeElement === area, host.sent]).toEqual([true, []]);
    enter(true);
    await settle();
    expect([document.activeElement === area, host.sent]).toEqual([false, ['Two\nlines']]);
  });

  it('leaves what was refused in the field, marked, with the reason, until it is put right or given up', async () => {
    const { fixture, field, press, type, settle } = open();
    const reason = () => (fixture.nativeElement as HTMLElement).querySelector('p')!.textContent;
    field.focus();
    type('Taken');
    press('Enter');
    await settle();
    expect([field.value, field.getAttribute('aria-invalid'), reason()]).toEqual([
      'Taken',
      'true',
      'There is a “Taken” already.',
    ]);
    field.focus();
    press('Escape');
    await settle();
    expect([field.value, field.getAttribute('aria-invalid'), reason()]).toEqual(['Gold', null, '']);
  });
});
