import { describe, expect, it } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { NameForm } from './name-form';

describe('the form that names something new', () => {
  const open = (make: (name: string) => Promise<string | null>) => {
    const fixture = TestBed.createComponent(NameForm);
    fixture.componentRef.setInput('label', 'Name of the new clock');
    fixture.componentRef.setInput('make', make);
    let closed = 0;
    fixture.componentInstance.cancelled.subscribe(() => closed++);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const field = host.querySelector('input')!;
    const submit = async (text: string) => {
      field.value = text;
      field.dispatchEvent(new Event('input'));
      host.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await new Promise((resolve) => setTimeout(resolve));
      fixture.detectChanges();
    };
    return { host, field, submit, closed: () => closed };
  };

  it('keeps a refused name in the field, marked, with the reason, and sends a trimmed one', async () => {
    const sent: string[] = [];
    const { host, field, submit } = open(async (name) => {
      sent.push(name);
      return name === 'Morning' ? 'There is a clock of that name already.' : null;
    });
    await submit('  ');
    expect(host.querySelector('[role=alert]')!.textContent).toBe('It needs a name.');
    await submit(' Morning ');
    expect([field.value, field.getAttribute('aria-invalid')]).toEqual([' Morning ', 'true']);
    const alert = host.querySelector('[role=alert]')!;
    expect([alert.id, alert.textContent]).toEqual([
      field.getAttribute('aria-describedby'),
      'There is a clock of that name already.',
    ]);
    await submit('Evening');
    expect([sent, host.querySelector('[role=alert]')]).toEqual([['Morning', 'Evening'], null]);
  });

  it('sends a name once, however often Enter is pressed, and closes with Escape', async () => {
    const sent: string[] = [];
    const { host, submit, closed } = open((name) => {
      sent.push(name);
      return new Promise(() => {});
    });
    await submit('Evening');
    await submit('Evening');
    expect(sent).toEqual(['Evening']);
    expect(host.querySelector<HTMLButtonElement>('button[type=submit]')!.disabled).toBe(true);
    host.querySelector('form')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    expect(closed()).toBe(1);
  });
});
