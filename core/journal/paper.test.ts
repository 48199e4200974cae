import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PaperRow } from './paper.ts';
import { COLUMNS, paperText } from './paperText.ts';
import { parseTicketNumber, ticketNumber } from './holdTicket.ts';
import { giftReceipt, receipt, type ReceiptData } from './receipt.ts';
import { parseReceiptNumber, receiptNumber } from './receiptNumber.ts';

const sale: ReceiptData = {
  shop: {
    name: 'Ostler Lane Music',
    words: ['7 Ostler Lane'],
    thanks: 'Thank you.',
    logo: '',
    terms: {},
    locale: 'en-US',
  },
  place: 'Ostler Lane',
  till: 'Till 2',
  number: '2-0418',
  when: '3/2/2026, 2:06 PM',
  cashier: 'Teo V.',
  customer: 'Priya Hallow',
  digits: 2,
  currency: 'USD',
  lines: [
    {
      number: 'CAB',
      name: 'Cable',
      unit: 'm',
      quantity: 2500,
      unitPrice: 420,
      regular: 1050,
      net: 1050,
      records: [],
      note: 'for the hall',
      gift: true,
      serial: 'K1002',
    },
    {
      number: 'STA',
      name: 'Stand',
      unit: 'each',
      quantity: 1000,
      unitPrice: 2040,
      regular: 2400,
      net: 2040,
      records: [{ kind: 'typed-price', amount: -360, why: 'Dented box' }],
      note: '',
      gift: false,
      serial: null,
    },
  ],
  note: 'Collected by Sam.',
  exemption: null,
  regular: 3450,
  reductions: -360,
  taxes: [{ rateId: 1, name: 'Sales tax', rate: 75_000, base: 3090, tax: 232 }],
  taxMode: 'on-top',
  total: 3322,
  tenders: [{ name: 'Cash', amount: 4000, tip: 0, facts: '', signature: '' }],
  donation: null,
  cashRounding: 0,
  change: 678,
};

describe('receipt', () => {
  it('says everything, with amounts at the right edge', () => {
    expect(paperText(receipt(sale)).split('\n')).toEqual([
      '            OSTLER LANE MUSIC',
      '              7 Ostler Lane',
      '',
      'Receipt 2-0418           3/2/2026, 2:06 PM',
      'Ostler Lane, Till 2                 Teo V.',
      'Customer                      Priya Hallow',
      '------------------------------------------',
      'Cable                                10.50',
      '  2.5 m at 4.20',
      '  No. K1002',
      '  for the hall',
      'Stand                                24.00',
      '  Dented box                         −3.60',
      '------------------------------------------',
      'Items                                34.50',
      'Reductions                           −3.60',
      'Before tax                           30.90',
      'Sales tax 7.5 % on 30.90              2.32',
      'Total USD                            33.22',
      'Cash                                 40.00',
      'Change                                6.78',
      '------------------------------------------',
      'Collected by Sam.',
      '',
      '                 *2-0418*',
      '                Thank you.',
      '',
    ]);
  });

  it('marks a copy, and shows tax that prices contain below the total', () => {
    const text = paperText(receipt({ ...sale, taxMode: 'inside' }, { copy: true }));
    expect(text).toContain('COPY');
    expect(text).toContain('7.5 % contained, on');
    expect(text).not.toContain('Before tax');
  });

  it('says why there is no tax', () => {
    const text = paperText(receipt({ ...sale, exemption: { reason: 'School', certificate: 'E-77' } }));
    expect(text).toContain('Without tax: School, certificate E-77');
  });

  it('goes with a present without a price', () => {
    const text = paperText(giftReceipt(sale));
    expect(text).toContain('Cable                                2.5 m');
    expect(text).not.toContain('Stand');
    expect(text).not.toMatch(/\d\.\d\d\b/);
  });

  it('reads its own numbers', () => {
    expect(receiptNumber(2, 418)).toBe('2-0418');
    expect(parseReceiptNumber('2-0418')).toEqual({ till: 2, count: 418 });
    expect(parseReceiptNumber('2-41')).toBeNull();
    expect(parseTicketNumber(ticketNumber(7))).toBe(7);
    expect(parseTicketNumber('W7')).toBeNull();
  });
});

describe('paper as text', () => {
  it('never gets wider than the paper and never loses an amount', () => {
    const words = fc.array(fc.stringMatching(/^\S{1,60}$/), { maxLength: 8 }).map((list) => list.join(' '));
    const row: fc.Arbitrary<PaperRow> = fc.oneof(
      words.map((text): PaperRow => ({ kind: 'text', text })),
      words.map((text): PaperRow => ({ kind: 'centre', text })),
      fc.record({
        kind: fc.constant('pair' as const),
        left: words,
        right: fc.stringMatching(/^\d{1,12}\.\d\d$/),
        indent: fc.boolean(),
      }),
    );
    fc.assert(
      fc.property(fc.array(row, { maxLength: 20 }), (rows) => {
        const text = paperText({ title: 'x', rows });
        for (const line of text.split('\n')) expect(line.length).toBeLessThanOrEqual(COLUMNS);
        for (const one of rows) {
          if (one.kind === 'pair')
            expect(text.split('\n').some((line) => line.endsWith(one.right))).toBe(true);
        }
      }),
    );
  });
});
