import { expect, it } from 'vitest';
import { supplierReturnSheet } from './supplierReturns.ts';

it('the sheet of what goes back says the day of the shop, also late in the evening', () => {
  const made = {
    id: 1,
    number: 4,
    at: '2026-03-03T02:30:00.000Z',
    who: 'Maren K.',
    words: 'Bent',
    cost: 0,
    lines: [],
  };
  const delivery = { number: 7, place: 'Store', supplier: 'Oakfield Strings', deliveryNote: 'DN-9' };
  const shop = { name: 'Mondrel Strings', timezone: 'America/New_York', receiptLocale: 'en-US' };
  expect(supplierReturnSheet(delivery, made, shop).subtitle).toBe(
    'From Mondrel Strings, Store · to Oakfield Strings · Mar 2, 2026 · of delivery E-0007 · your delivery note DN-9 · Bent',
  );
});
