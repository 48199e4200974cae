import { plainSpaces } from '../../core/locale.ts';
import type { ReceiptData, ReceiptHead } from '../../core/journal/receipt.ts';
import { ONE } from '../../core/quantity.ts';

const line = (name: string, regular: number, why: string, off: number): ReceiptData['lines'][number] => ({
  number: '',
  name,
  unit: 'each',
  quantity: ONE,
  unitPrice: regular,
  regular,
  net: regular - off,
  records: off === 0 ? [] : [{ kind: 'discount', amount: 0 - off, why }],
  note: '',
  gift: false,
  serial: null,
});

/** A made-up time, as the papers of a shop write theirs. */
const writtenTime = (locale: string): string =>
  plainSpaces(
    new Intl.DateTimeFormat(locale, {
      calendar: 'gregory',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: '2-digit',
      timeZone: 'UTC',
    }).format(Date.UTC(2026, 0, 31, 14, 6)),
  );

/** A made-up sale that shows every word of a receipt. */
export function sampleReceipt(shop: ReceiptHead & { currency: string; digits: number }): ReceiptData {
  return {
    shop,
    place: 'Shop',
    till: 'Till 1',
    number: '1-0000',
    when: writtenTime(shop.locale),
    cashier: 'A. Cashier',
    customer: 'A. Customer',
    digits: shop.digits,
    currency: shop.currency,
    lines: [line('Something dear', 1_234_50, 'Dented box', 34_50), line('Something small', 10_00, '', 0)],
    regular: 1_244_50,
    reductions: -34_50,
    taxes: [{ rateId: 1, name: 'Tax', rate: 75_000, base: 1_210_00, tax: 90_75 }],
    taxMode: 'on-top',
    total: 1_300_75,
    note: '',
    exemption: null,
    tenders: [
      { name: 'Gift card ·· 7714', amount: 300_00, tip: 0, facts: '', signature: '' },
      { name: 'Cash', amount: 1_001_00, tip: 0, facts: '', signature: '' },
    ],
    donation: { fund: 'A fund', amount: 25 },
    cashRounding: 0,
    change: 0,
  };
}
