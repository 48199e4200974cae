import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { StoredUse } from '../offers/service.ts';
import type { LineToFinish, SaleToFinish, TenderToFinish } from './saleToFinish.ts';

const FUNCTIONS = [
  'finish_sale',
  'sell_values',
  'credit_of',
  'pay_with_values',
  'move_stock',
  'ask_for_papers',
  'use_offers',
];
const sql = FUNCTIONS.map((name) =>
  readFileSync(join(import.meta.dirname, '../db/functions', `${name}.sql`), 'utf8'),
).join('\n');

/** The fields of a type, each named once: one that is added to the type must be added here. */
const named = <T>(fields: Record<keyof Required<T>, true>): string[] => Object.keys(fields).sort();

/** Names of the columns of `as name (a integer, "b" text, …)`. */
const columnsOf = (list: string): string[] =>
  list.split(',').map((column) => column.trim().split(/\s+/)[0]?.replaceAll('"', '') ?? '');

function columns(of: string): string[] {
  const lists = [...sql.matchAll(new RegExp(`jsonb_to_recordset\\(${of}\\) as \\w+ \\(([^)]*)\\)`, 'g'))];
  return [...new Set(lists.flatMap(([, list = '']) => columnsOf(list)))].sort();
}

function fieldsOfSale(): string[] {
  const [, record = ''] = /jsonb_to_record\(sale_data\) as sold \(([^)]*)\)/.exec(sql) ?? [];
  const single = [...sql.matchAll(/sale_data->>?'(\w+)'/g)].map(([, name = '']) => name);
  const deep = [...sql.matchAll(/jsonb_extract_path\(sale_data, '(\w+)'/g)].map(([, name = '']) => name);
  return [...new Set([...single, ...deep, ...columnsOf(record)])].sort();
}

describe('what is handed to the database when a sale is finished', () => {
  it('is read there, field by field, and nothing else is', () => {
    expect(fieldsOfSale()).toEqual(
      named<SaleToFinish>({
        id: true,
        tillId: true,
        placeId: true,
        staffId: true,
        at: true,
        businessDate: true,
        currency: true,
        taxMode: true,
        regular: true,
        reductions: true,
        tax: true,
        total: true,
        donation: true,
        fundId: true,
        cashRounding: true,
        note: true,
        customerId: true,
        exemptReason: true,
        exemptCertificate: true,
        lines: true,
        taxes: true,
        tenders: true,
        opensDrawer: true,
        asked: true,
        receiptBy: true,
        receiptTo: true,
        offerUses: true,
        pointsOff: true,
        kind: true,
        promises: true,
        entries: true,
      }),
    );
  });

  it('so are its lines', () => {
    expect(columns("sale_data->'lines'")).toEqual(
      named<LineToFinish>({
        position: true,
        itemId: true,
        number: true,
        name: true,
        unit: true,
        quantity: true,
        serial: true,
        bundle: true,
        ageChecked: true,
        storedValue: true,
        promised: true,
        account: true,
        note: true,
        gift: true,
        unitPrice: true,
        regular: true,
        net: true,
        records: true,
        taxes: true,
        comesBack: true,
        stocked: true,
      }),
    );
  });

  it('its payments, taxes and offers', () => {
    expect(columns("sale_data->'tenders'")).toEqual(
      named<TenderToFinish>({
        position: true,
        kind: true,
        typeId: true,
        name: true,
        amount: true,
        handed: true,
        tip: true,
        reference: true,
        foreignAmount: true,
        storedValueId: true,
        lapses: true,
        accountId: true,
        paymentTenderId: true,
        creditNumber: true,
        refundsSale: true,
        refundsPosition: true,
      }),
    );
    expect(columns("sale_data->'taxes'")).toEqual(
      named<SaleToFinish['taxes'][number]>({
        position: true,
        rateId: true,
        name: true,
        rate: true,
        base: true,
        tax: true,
      }),
    );
    expect(columns('used')).toEqual(
      named<StoredUse>({ offerId: true, uses: true, code: true, points: true }),
    );
  });
});
