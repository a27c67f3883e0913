import { describe, expect, it } from '@jest/globals';
import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { ClockLine } from '@fuller/core';
import { whenText, restText } from '../text/when';
import { Burr } from './burr';
import { dayStateWords, DayMark } from './day-mark';
import { HourRibbon } from './hour-ribbon';
import { hourParts } from './hour-shape';
import { InlineEdit } from './inline-edit';
import { SmallButton } from './small-button';

const LENGTHS = { averageOf: () => 600_000, lengthOf: () => 30_000 };
const NAMES = {
  category: () => ({ name: 'Gold', colour: '#112233' }) as never,
  itemTitle: () => 'An item',
  line: () => 'a line',
  setList: () => 'A list',
};

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InlineEdit],
  template: `<f-inline-edit label="Year" [value]="value()" [check]="check" (changed)="changes.push($event)" />`,
})
class Host {
  readonly value = signal('1998');
  readonly changes: string[] = [];
  readonly check = (text: string): string | null => (/^\d{4}$/.test(text) ? null : 'Write a year.');
}

async function shown<T>(type: new () => T, inputs: Record<string, unknown> = {}): Promise<ComponentFixture<T>> {
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}

describe('the inline edit', () => {
  async function edit(): Promise<{
    fixture: ComponentFixture<Host>;
    field: HTMLInputElement;
    type(text: string, key?: string): Promise<void>;
  }> {
    const fixture = await shown(Host);
    const field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    const type = async (text: string, key = 'Enter'): Promise<void> => {
      field.focus();
      field.value = text;
      field.dispatchEvent(new Event('input'));
      field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      field.dispatchEvent(new Event('blur'));
      await fixture.whenStable();
    };
    return { fixture, field, type };
  }

  it('keeps a good text and says nothing when nothing changed', async () => {
    const { fixture, type } = await edit();
    await type('1998');
    await type(' 2004 ');
    expect(new Set(fixture.componentInstance.changes)).toEqual(new Set(['2004']));
  });

  it('refuses a bad text, keeps what was typed and says why', async () => {
    const { fixture, field, type } = await edit();
    await type('last year');
    expect(fixture.componentInstance.changes).toEqual([]);
    expect(field.value).toBe('last year');
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect((fixture.nativeElement as HTMLElement).querySelector('[role=alert]')!.textContent).toBe('Write a year.');
  });

  it('gives the old text back on Escape', async () => {
    const { fixture, field, type } = await edit();
    await type('nonsense', 'Escape');
    expect(field.value).toBe('1998');
    expect(fixture.componentInstance.changes).toEqual([]);
  });
});

describe('marks that tell by shape', () => {
  it('draw a must solid and a wish hollow, with the amount in words', async () => {
    const must = await shown(Burr, { strength: 'must', words: 'artist 4 of 90 min' });
    expect((must.nativeElement as HTMLElement).className).toBe('must');
    expect((must.nativeElement as HTMLElement).textContent).toContain('artist 4 of 90 min');
    expect(((await shown(Burr, { strength: 'wish' })).nativeElement as HTMLElement).className).toBe('wish');
  });

  it('draw every state of a day differently', async () => {
    const drawn = [];
    for (const state of ['none', 'open', 'complete', 'handed over', 'aired'] as const) {
      drawn.push(((await shown(DayMark, { state })).nativeElement as HTMLElement).innerHTML.replace(/<!--.*?-->/g, ''));
    }
    expect(new Set(drawn).size).toBe(5);
    expect([dayStateWords('open', 1), dayStateWords('open', 3), dayStateWords('none', 0)]).toEqual([
      '1 slot open',
      '3 slots open',
      'no log',
    ]);
  });
});

describe('the hour ribbon', () => {
  const lines: ClockLine[] = [
    { id: 'a', kind: 'pick', categoryId: 'g', comment: '' },
    { id: 'b', kind: 'break', bookedAtMs: 720_000, durationMs: 120_000, comment: '' },
    { id: 'c', kind: 'pick', categoryId: 'g', comment: '' },
  ];

  it('draws lines as tall as they are long, and a pin where the break is booked', async () => {
    const { parts, totalMs } = hourParts(
      lines.map((line) => ({ line })),
      LENGTHS,
      NAMES,
      3_600_000,
    );
    const element = (await shown(HourRibbon, { parts, totalMs, height: 600 })).nativeElement as HTMLElement;
    const heights = [...element.querySelectorAll('.body')].map((rect) => Number(rect.getAttribute('height')));
    expect(heights[0]! / heights[1]!).toBeCloseTo(5, 0);
    expect(element.querySelectorAll('.pin.off')).toHaveLength(1);
    expect(element.querySelector('svg')!.getAttribute('aria-label')).toContain('break booked at 12:00 expected 10:00');
  });
});

describe('times in words', () => {
  const at = (text: string): number => Date.parse(text);

  it('are told from the station’s day', () => {
    const told = (text: string): string => whenText(at(text), 'Europe/Dublin', '2026-07-10');
    expect(told('2026-07-10T05:12:00Z')).toBe('today 06:12');
    expect(told('2026-07-09T22:59:00Z')).toBe('yesterday 23:59');
    expect(told('2026-07-10T23:30:00Z')).toBe('tomorrow 00:30');
    expect(told('2026-07-01T12:00:00Z')).toBe('Wed 1 Jul 13:00');
    expect(told('2024-02-29T12:00:00Z')).toBe('29 Feb 2024');
    expect(whenText(null, 'UTC', '2026-07-10')).toBe('never');
  });

  it('tell a rest in the unit a person would use', () => {
    expect([42, 95, 600, 6000].map((minutes) => restText(minutes * 60_000))).toEqual([
      '42 min',
      '95 min',
      '10 h',
      '4 days',
    ]);
    expect(restText(null)).toBe('never played');
  });
});

describe('a small button', () => {
  @Component({
    changeDetection: ChangeDetectionStrategy.OnPush,
    imports: [SmallButton],
    template: `<form>
      <button fButton>Plain</button><button fButton="text">Quiet</button>
      <button fButton="primary" type="submit">Main</button><a fButton href="#">Link</a>
    </form>`,
  })
  class Buttons {}

  it('is small and of its kind, and sends a form only where it says so', async () => {
    const { nativeElement } = await shown(Buttons);
    const all = [...(nativeElement as HTMLElement).querySelectorAll<HTMLElement>('[fButton]')];
    const kinds = (one: HTMLElement): string[] =>
      ['p-button-sm', 'p-button-secondary', 'p-button-text'].filter((name) => one.classList.contains(name));
    expect(all.map(kinds)).toEqual([
      ['p-button-sm', 'p-button-secondary'],
      ['p-button-sm', 'p-button-secondary', 'p-button-text'],
      ['p-button-sm'],
      ['p-button-sm', 'p-button-secondary'],
    ]);
    expect(all.map((one) => one.getAttribute('type'))).toEqual(['button', 'button', 'submit', null]);
  });
});
