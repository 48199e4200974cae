import { formatMoney, type Money } from '../money.ts';
import type { Paper } from './paper.ts';

/** A held basket's number as printed and scanned: `W-0007`. */
export function ticketNumber(ticket: number): string {
  return `W-${String(ticket).padStart(4, '0')}`;
}

/** Reads the number of a held basket. @returns `null` when the text is none */
export function parseTicketNumber(text: string): number | null {
  const match = /^W-(\d{4,9})$/i.exec(text.trim());
  return match ? Number(match[1]) : null;
}

/** The slip that goes with a basket that was put aside. */
export function holdTicket(held: {
  shop: string;
  ticket: number;
  name: string;
  note: string;
  when: string;
  by: string;
  units: string;
  total: Money;
  digits: number;
}): Paper {
  const number = ticketNumber(held.ticket);
  return {
    title: `Held basket ${number}`,
    rows: [
      { kind: 'title', text: held.shop },
      { kind: 'centre', text: 'Held basket' },
      { kind: 'gap' },
      ...(held.name ? [{ kind: 'title' as const, text: held.name }] : []),
      ...(held.note ? [{ kind: 'text' as const, text: held.note }] : []),
      { kind: 'pair', left: held.by, right: held.when },
      { kind: 'pair', left: held.units, right: formatMoney(held.total, held.digits), strong: true },
      { kind: 'gap' },
      { kind: 'barcode', text: number },
    ],
  };
}
