import { rateOf } from '../core/rate.ts';
import { addGroup } from '../server/people/groupStore.ts';
import { putRecords } from '../server/people/recordStore.ts';
import { addCard, addPoints, putGroupPrice, stopCards } from '../server/people/store.ts';
import { NOTHING_KNOWN } from '../core/people/record.ts';
import { postEvent } from '../server/books/store.ts';
import type { Writer } from '../server/db/database.ts';
import { addValue, moveValue } from '../server/giftCards/store.ts';
import { balanced } from '../core/books/entries.ts';
import type { By } from '../server/people/accounts.ts';
import { ownEan13 } from './barcodes.ts';
import { CUSTOMERS, GROUP_PRICES, GROUPS } from './data/customers.ts';

const PER_CENT = 10_000;

/** Makes the customers of the made-up shop known. @returns their ids */
export async function layCustomers(sql: Writer, staffId: number, at: Date): Promise<number[]> {
  const groups = new Map<string, number>();
  for (const name of GROUPS) groups.set(name, await addGroup(sql, { name, rule: null }));

  const ids: number[] = [];
  let cards = 0;
  for (const [place, customer] of CUSTOMERS.entries()) {
    const { name, company = '', birthday, note = '' } = customer;
    const words = name.toLowerCase().split(' ');
    const record = {
      ...NOTHING_KNOWN,
      name,
      company,
      phone: `555-01${String(20 + place).padStart(2, '0')}`,
      mail: `${words[0] ?? ''}.${words[1] ?? ''}@mail.example`,
      birthMonth: birthday?.[0] ?? null,
      birthDay: birthday?.[1] ?? null,
      note,
      groups: customer.groups ?? [],
      tags: customer.tags ?? [],
      news: customer.news !== undefined,
      newsOn: customer.news ?? '',
      newsHow: customer.news ? 'asked at the till' : '',
      addresses: customer.address ? [{ recipient: company, ...customer.address }] : [],
    };
    const [id = 0] = await putRecords(sql, [{ id: null, record, cards: [], changes: [] }], { staffId, at });
    ids.push(id);
    for (let card = customer.cards ?? 0; card > 0; card--) {
      cards += 1;
      const code = ownEan13(24, cards);
      await addCard(sql, id, code, { staffId, at });
      if (card > 1) await stopCards(sql, id, code, { staffId, at });
    }
    if (customer.points) await addPoints(sql, id, customer.points, at);
    if (customer.credit) await postCredit(sql, id, -customer.credit, { staffId, at });
    if (customer.credit) {
      const credit = await addValue(sql, {
        number: `CREDIT-${String(id).padStart(4, '0')}`,
        amount: customer.credit,
        expiresOn: '',
        singleUse: false,
        kind: 'store-credit',
        customerId: id,
        at,
      });
      await moveValue(sql, { id: credit ?? 0, kind: 'opening', amount: customer.credit, staffId, at });
    }
  }

  for (const { group, category, percent } of GROUP_PRICES) {
    const items = await sql.query<{ id: number; price: number }>(
      'select item.id, price from item join category on category.id = category_id where category.name = $1 and price is not null',
      [category],
    );
    for (const { id, price } of items) {
      await putGroupPrice(sql, groups.get(group) ?? 0, id, rateOf(price, percent * PER_CENT));
    }
  }
  return ids;
}

/** What somebody had as store credit before these books began. @param amount below zero */
function postCredit(sql: Writer, customerId: number, amount: number, by: By): Promise<void> {
  const entries = balanced([
    { account: 'store-credit', subject: `customer:${customerId}`, amount },
    { account: 'opening-balance', subject: '', amount: 0 - amount },
  ]);
  return postEvent(sql, { kind: 'opening', ...by, entries });
}
