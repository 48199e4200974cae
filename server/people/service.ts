import type { CustomerPanel, FoundCustomer, LikelySame, NewCustomer } from '../../contract/people.ts';
import { likelySame, searchedWords } from '../../core/people/customer.ts';
import { endingSoon } from '../../core/people/loyalty.ts';
import { NOTHING_KNOWN } from '../../core/people/record.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { shopTime } from '../clock.ts';
import { promisesFor } from '../promises/rows.ts';
import { readShop, shopToday } from '../shop/store.ts';
import { giveCard } from './cards.ts';
import { customerNow, putRecords } from './recordStore.ts';
import { accountsFor } from './accountStore.ts';
import * as store from './store.ts';

const LISTED = 12;
const VISITS = 5;

/** Customers found by name, company, phone, mail or card while somebody types. */
export async function findCustomers(sql: Reader, text: string): Promise<FoundCustomer[]> {
  const words = searchedWords(text);
  if (words.length === 0) return [];
  const card = await store.customerOfCard(sql, text.trim());
  const found = await store.searchCustomers(sql, words, LISTED);
  if (!card || card.replaced || found.some(({ id }) => id === card.customerId)) return found;
  const panel = await store.customerPanel(sql, card.customerId, 0);
  return panel ? [panel, ...found] : found;
}

/** Who has a card. @throws Problem 404 when nobody has, 409 when it was replaced */
export async function customerOfCard(sql: Reader, code: string, at: Date): Promise<CustomerPanel> {
  const card = await store.customerOfCard(sql, code);
  if (!card) throw new Problem('no-card', 'This is no customer card.');
  if (card.replaced) {
    const shop = await readShop(sql);
    const since = card.since ? ` It stopped on ${shopTime(new Date(card.since).toISOString(), shop)}.` : '';
    throw new Problem('card-replaced', `This card of ${card.name} was replaced and counts no more.${since}`, {
      detail: 'Ask for the new card, or find the customer by name with F4.',
    });
  }
  return readCustomer(sql, card.customerId, at);
}

/** What the Counter shows of a customer; of one who was merged, of the record that stays. @throws Problem 404 */
export async function readCustomer(sql: Reader, asked: number, at: Date): Promise<CustomerPanel> {
  const customer = await customerNow(sql, asked);
  const panel = customer && (await store.customerPanel(sql, customer.id, VISITS));
  if (!panel) throw new Problem('no-customer', 'There is no such customer.');
  const { endings, ...rest } = panel;
  const { id } = rest;
  const today = await shopToday(sql, at);
  return {
    ...rest,
    accounts: await accountsFor(sql, id, today),
    ending: endingSoon(endings, today),
    promises: await promisesFor(sql, id, at),
    visits: panel.visits.map((visit) => ({ ...visit, finishedAt: new Date(visit.finishedAt).toISOString() })),
  };
}

/**
 * Makes a customer known, with the card that they get.
 * @throws Problem 409 `customer-known` with who they may be, unless they are to be created anyway; as `giveCard`
 */
export async function addCustomer(
  sql: Writer,
  { anyway, card, ...customer }: NewCustomer,
  staffId: number,
  at: Date,
): Promise<CustomerPanel> {
  const like = anyway === 'yes' ? undefined : await findLikelySame(sql, customer);
  if (like) {
    throw new Problem('customer-known', `${like.customer.name} is known already: ${like.why}.`, {
      data: like,
    });
  }
  const id = await newRecord(sql, customer, { staffId, at });
  if (card) await giveCard(sql, id, { code: card, replaces: false }, { staffId, at }, 'card');
  return readCustomer(sql, id, at);
}

/** Stores somebody new of whom little is known yet. @returns their number */
export async function newRecord(
  sql: Writer,
  customer: Omit<NewCustomer, 'anyway' | 'card'>,
  by: { staffId: number | null; at: Date },
): Promise<number> {
  const record = { ...NOTHING_KNOWN, ...customer };
  const changes = [{ what: 'Created', was: '', became: record.name }];
  return one(await putRecords(sql, [{ id: null, record, cards: [], changes }], by));
}

/** Who has a telephone number or a mail address, the number first. A name alone is anybody's. */
export async function customerAt(
  sql: Reader,
  { phone, mail }: Pick<NewCustomer, 'phone' | 'mail'>,
): Promise<number | undefined> {
  for (const words of [phone, mail].map(searchedWords)) {
    if (words.length === 0) continue;
    for (const known of await store.searchCustomers(sql, words, LISTED)) {
      if (likelySame({ name: '', company: '', phone, mail }, known)) return known.id;
    }
  }
  return undefined;
}

async function findLikelySame(
  sql: Reader,
  customer: Omit<NewCustomer, 'anyway' | 'card'>,
): Promise<LikelySame | undefined> {
  for (const words of [customer.phone, customer.mail, customer.name].map(searchedWords)) {
    if (words.length === 0) continue;
    for (const known of await store.searchCustomers(sql, words, LISTED)) {
      const why = likelySame(customer, known);
      if (why) return { customer: known, why };
    }
  }
  return undefined;
}
