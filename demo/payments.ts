import { storedValueEntries } from '../core/books/entries.ts';
import { luhnDigit } from '../core/giftCards/storedValue.ts';
import type { Writer } from '../server/db/database.ts';
import { postEvent } from '../server/books/store.ts';
import {
  addTenderType,
  addTerminal,
  offerTerminal,
  putPaymentSettings,
} from '../server/payment/settingsStore.ts';
import { addValue, moveValue, setState } from '../server/giftCards/store.ts';

/** Terminals as they stand in the shop: serial number, name, and the tills that may ask them. */
const TERMINALS: readonly [serial: string, name: string, tills: readonly number[]][] = [
  ['T-1001', 'Counter', [1, 2]],
  ['T-1002', 'Roamer', [1, 2]],
  ['T-1003', 'Quay', [3]],
];

const withDigit = (body: string): string => body + luhnDigit(body);

/** Gift cards that are about, and paper certificates of an earlier year. */
const VALUES: readonly {
  number: string;
  kind: 'gift-card' | 'certificate';
  amount: number;
  frozen?: boolean;
  once?: boolean;
  expiresOn?: string;
}[] = [
  { number: withDigit('4410077140'), kind: 'gift-card', amount: 200_00 },
  { number: withDigit('4410077141'), kind: 'gift-card', amount: 35_50 },
  { number: withDigit('4410077142'), kind: 'gift-card', amount: 80_00, frozen: true },
  { number: withDigit('4410077143'), kind: 'gift-card', amount: 12_25 },
  { number: 'OLM-0231', kind: 'certificate', amount: 25_00 },
  { number: 'OLM-0232', kind: 'certificate', amount: 50_00, once: true },
  { number: 'OLM-0198', kind: 'certificate', amount: 40_00, expiresOn: '2025-12-31' },
];

/** How the made-up shop takes money. @param tills their ids, in the order of their numbers */
export async function layPayments(
  sql: Writer,
  tills: readonly number[],
  staffId: number,
  at: Date,
): Promise<void> {
  await putPaymentSettings(sql, {
    roundUpStep: 100,
    fund: 'Ferrisport Youth Orchestra instrument fund',
    tipRates: [],
    cashRounding: 0,
    giftCardMonths: 60,
    dormantMonths: 24,
  });
  await addTenderType(sql, {
    name: 'Canadian dollars',
    kind: 'foreign-cash',
    active: true,
    reference: '',
    counted: true,
    opensDrawer: true,
    foreignCurrency: 'CAD',
    foreignRate: 720_000,
  });
  await addTenderType(sql, {
    name: 'Harbour Fair voucher',
    kind: 'voucher',
    active: true,
    reference: 'Voucher number',
    counted: true,
    opensDrawer: true,
    foreignCurrency: '',
    foreignRate: null,
  });
  for (const [serial, name, offeredTo] of TERMINALS) {
    const id = await addTerminal(sql, serial, name);
    for (const number of offeredTo) await offerTerminal(sql, tills[number - 1] ?? 0, id, true);
  }
  for (const { number, kind, amount, frozen = false, once = false, expiresOn = '' } of VALUES) {
    const id = await addValue(sql, { number, amount, expiresOn, singleUse: once, kind, at });
    if (id === undefined) throw new Error(`there is ${number} already`);
    await moveValue(sql, { id, kind: 'opening', amount, staffId, at });
    await postEvent(sql, {
      kind: 'stored-value',
      at,
      staffId,
      entries: storedValueEntries({ kind, amount, against: 'opening-balance' }),
    });
    if (frozen) await setState(sql, id, 'frozen');
  }
}
