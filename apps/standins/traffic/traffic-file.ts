import { wallClockText } from '@fuller/core';
import { bookDay, type BookedLine } from './book-day.js';
import type { Contract } from './contract.js';

/** The file of a date: break time 1-8, cart 11-17, length 20-22, sponsor 25-47, title from 50; CRLF. */
export function trafficFile(contract: Contract, date: string): string {
  const lines = bookDay(contract, date).map(lineOf);
  return [`# ${contract.desk}  ${date}`, ...lines, ''].join('\r\n');
}

function lineOf({ atSeconds, cart, seconds, sponsor, title }: BookedLine): string {
  const time = wallClockText(atSeconds * 1000);
  return `${time}  ${fit(cart, 7)}  ${String(seconds).padStart(3)}  ${fit(sponsor, 23)}  ${title}`;
}

function fit(text: string, width: number): string {
  return text.slice(0, width).padEnd(width);
}

/** The name of the file of a date. */
export function trafficFileName(date: string): string {
  return `spots-${date}.txt`;
}
