import type { PaymentFacts } from '../../contract/payment.ts';
import type { StoredValueFacts, StoredValueKind } from '../../core/giftCards/storedValue.ts';
import type { TenderState } from '../../core/payment/tender.ts';
import type { TenderKind } from '../../core/payment/tenderKinds.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import type { Basket, BasketCode, BasketLine } from '../../core/counter/basket.ts';
import type { Money } from '../../core/money.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';

/** A payment as it is stored while its sale is not finished. */
export interface PaymentTender {
  id: string;
  basketId: string;
  position: number;
  typeId: number;
  typeName: string;
  kind: TenderKind;
  state: TenderState;
  amount: Money;
  asked: Money;
  handed: Money;
  tip: Money;
  roundUp: Money;
  reference: string;
  foreignAmount: Money | null;
  words: string;
  storedValueId: number | null;
  storedValueKind: StoredValueKind | null;
  storedValueNumber: string | null;
  storedValueBalance: Money | null;
  /** Whether its sale was finished when this was read: what it took is off the balance then. */
  finished: boolean;
  storedValueSingleUse: boolean | null;
  storedValueCustomer: number | null;
  /** The house account that is charged, whose it is, and what they are called. */
  accountId: number | null;
  accountCustomer: number | null;
  accountName: string | null;
  terminalId: number | null;
  serial: string | null;
  terminalName: string | null;
  notPresent: boolean;
  askRoundUp: boolean;
  cardOnFileId: number | null;
  token: string | null;
  brand: string | null;
  lastFour: string | null;
  at: string;
  changedAt: string;
  /** Money goes back: its amounts are below zero. */
  refund: boolean;
  /** The payment of an earlier sale that it goes back along. */
  refundsSale: string | null;
  refundsPosition: number | null;
  /** The payment that it sends back, which came too late and could not be taken back. */
  sendsBack: string | null;
}

const TENDER = `tender.id, basket_id as "basketId", tender.position, type_id as "typeId", type.name as "typeName",
  type.kind, tender.state, case when refund then -tender.amount else tender.amount end as amount, tender.asked,
  case when refund then -tender.handed else tender.handed end as handed, refund,
  refunds_sale as "refundsSale", refunds_position as "refundsPosition", tender.tip, tender.round_up as "roundUp",
  tender.reference,
  foreign_amount as "foreignAmount", tender.words, stored_value_id as "storedValueId", value.kind as "storedValueKind",
  value.number as "storedValueNumber", value.balance as "storedValueBalance",
  value.single_use as "storedValueSingleUse",
  (select payment.state = 'finished' from payment where payment.basket_id = tender.basket_id) as finished,
  value.customer_id as "storedValueCustomer",
  account_id as "accountId", account.customer_id as "accountCustomer",
  account_name(account.of_company, owner.name, owner.company) as "accountName",
  terminal_id as "terminalId", terminal.serial, terminal.name as "terminalName", not_present as "notPresent",
  ask_round_up as "askRoundUp",
  card_on_file_id as "cardOnFileId", token, brand, last_four as "lastFour", tender.at, tender.changed_at as "changedAt",
  sends_back as "sendsBack"
  from payment_tender as tender join tender_type as type on type.id = type_id
  left join stored_value as value on value.id = stored_value_id
  left join account on account.id = account_id left join customer as owner on owner.id = account.customer_id
  left join terminal on terminal.id = terminal_id`;

/** Every payment of a basket, in the order in which they were asked for. */
export function tendersOf(sql: Reader, basketId: string): Promise<PaymentTender[]> {
  return sql.query<PaymentTender>(`select ${TENDER} where basket_id = $1 order by tender.position`, [
    basketId,
  ]);
}

export async function findTender(sql: Reader, id: string): Promise<PaymentTender | undefined> {
  const [row] = await sql.query<PaymentTender>(`select ${TENDER} where tender.id = $1`, [id]);
  return row;
}

/** Payments whose device still has to answer. */
export function pendingTenders(sql: Reader): Promise<PaymentTender[]> {
  return sql.query<PaymentTender>(
    `select ${TENDER} where tender.state in (select name from tender_state where open) or tender.state = 'abandoned'
     order by tender.at`,
  );
}

/** What a basket came to when its payment began. */
export interface BegunFigures {
  lines: BasketLine[];
  priced: PricedBasket;
  /** Codes that opened offers. */
  codes: BasketCode[];
}

export interface PaymentRow {
  basketId: string;
  tillId: number;
  staffId: number;
  /** `null` where the sale was finished at once. */
  basket: Basket | null;
  due: Money;
  state: 'open' | 'finished';
  /** The basket was changed since. */
  stale: boolean;
  beganAt: string;
  figures: BegunFigures | null;
}

const PAYMENT = `select basket_id as "basketId", till_id as "tillId", staff_id as "staffId", basket, due, state, stale,
  began_at as "beganAt", figures from payment`;

/** Notes that a basket was changed after a payment was taken for it. */
export async function markStale(sql: Writer, basket: Basket): Promise<void> {
  await sql.query(
    `update payment set stale = (basket <> $2::jsonb) where basket_id = $1 and state = 'open'
     and stale <> (basket <> $2::jsonb)`,
    [basket.id, JSON.stringify(basket)],
  );
}

export async function findPayment(sql: Reader, basketId: string): Promise<PaymentRow | undefined> {
  const [row] = await sql.query<PaymentRow>(`${PAYMENT} where basket_id = $1`, [basketId]);
  return row;
}

export async function openPayments(sql: Reader): Promise<string[]> {
  const rows = await sql.query<{ id: string }>(`select basket_id as id from payment where state = 'open'`);
  return rows.map(({ id }) => id);
}

/**
 * Begins the row that stands for the payment of a basket. @returns false where it is there, or the sale is finished
 */
export async function addPayment(sql: Writer, payment: BeginPayment): Promise<boolean> {
  const { basket, due, figures, tillId, staffId, at } = payment;
  const added = await sql.query(
    `insert into payment (basket_id, till_id, staff_id, basket, due, began_at, figures)
     select $1, $2, $3, $4, $5, $6, $7 where not exists (select 1 from sale where id = $1)
     on conflict (basket_id) do nothing returning basket_id`,
    [basket.id, tillId, staffId, JSON.stringify(basket), due, at.toISOString(), JSON.stringify(figures)],
  );
  return added.length > 0;
}

/** What the payment of a basket begins with, or goes on with. */
export interface BeginPayment {
  basket: Basket;
  due: Money;
  figures: BegunFigures;
  tillId: number;
  staffId: number;
  at: Date;
}

/** Keeps what a payment goes on with. */
export async function putPayment(sql: Writer, payment: PaymentRow): Promise<void> {
  const { basketId, basket, due, figures, tillId, staffId, beganAt } = payment;
  await sql.query(
    `update payment set basket = $2, due = $3, figures = $4, till_id = $5, staff_id = $6, began_at = $7, stale = false
     where basket_id = $1`,
    [basketId, JSON.stringify(basket), due, JSON.stringify(figures), tillId, staffId, beganAt],
  );
}

/** Whether a finished sale was paid with it. */
export async function isOfSale(sql: Reader, id: string): Promise<boolean> {
  return (await sql.query('select 1 from tender where payment_tender_id = $1', [id])).length > 0;
}

/** Whether money is held for another basket of a till. */
export async function moneyHeld(sql: Reader, tillId: number, exceptBasket: string | null): Promise<boolean> {
  const rows = await sql.query(
    `select 1 from payment join payment_tender as tender using (basket_id)
     where payment.till_id = $1 and payment.state = 'open' and basket_id is distinct from $2
       and tender.state in (select name from tender_state where holds) limit 1`,
    [tillId, exceptBasket],
  );
  return rows.length > 0;
}

/** Whether a device is being asked just now for a basket that was another one when it was asked. */
export async function deviceAsked(sql: Reader, basket: Basket): Promise<boolean> {
  const rows = await sql.query(
    `select 1 from payment_tender as tender join payment using (basket_id)
     where basket_id = $1 and tender.state in (select name from tender_state where open) and basket <> $2::jsonb
       limit 1`,
    [basket.id, JSON.stringify(basket)],
  );
  return rows.length > 0;
}

export interface NewTender {
  id: string;
  basketId: string;
  typeId: number;
  state: TenderState;
  amount: Money;
  handed: Money;
  reference: string;
  foreignAmount: Money | null;
  storedValueId: number | null;
  accountId?: number | null;
  terminalId: number | null;
  notPresent: boolean;
  askRoundUp: boolean;
  cardOnFileId: number | null;
  token: string | null;
  staffId: number;
  at: Date;
  refund?: boolean;
  refunds?: { saleId: string; position: number } | null;
  sendsBack?: string | null;
}

export async function addTender(sql: Writer, tender: NewTender): Promise<void> {
  await sql.query(
    `insert into payment_tender (id, basket_id, position, type_id, state, amount, asked, handed, reference,
      foreign_amount,
       stored_value_id, terminal_id, not_present, card_on_file_id, token, staff_id, at, changed_at, ask_round_up,
       refund, refunds_sale, refunds_position, sends_back, account_id)
     values ($1, $2, (select coalesce(max(position), 0) + 1 from payment_tender
       where basket_id = $2), $3, $4, $5, $5, $6,
       $7, $8, $9, $10, $11, $12, $13, $14, $15, $15, $16, $17, $18, $19, $20, $21)`,
    [
      tender.id,
      tender.basketId,
      tender.typeId,
      tender.state,
      tender.amount,
      tender.handed,
      tender.reference,
      tender.foreignAmount,
      tender.storedValueId,
      tender.terminalId,
      tender.notPresent,
      tender.cardOnFileId,
      tender.token,
      tender.staffId,
      tender.at.toISOString(),
      tender.askRoundUp,
      tender.refund ?? false,
      tender.refunds?.saleId ?? null,
      tender.refunds?.position ?? null,
      tender.sendsBack ?? null,
      tender.accountId ?? null,
    ],
  );
}

/** What a terminal has said about a payment. */
export interface TenderAnswer {
  amount: Money;
  tip: Money;
  roundUp: Money;
  token: string | null;
  brand: string | null;
  lastFour: string | null;
  cardKind: string | null;
  entry: string | null;
  approval: string;
  signature: string;
}

/** Puts a payment into its next state, with what the device said. */
export async function setTender(
  sql: Writer,
  id: string,
  next: { state: TenderState; words: string; at: Date; answer?: TenderAnswer | undefined },
): Promise<void> {
  const { state, words, at, answer } = next;
  await sql.query('update payment_tender set state = $2, words = $3, changed_at = $4 where id = $1', [
    id,
    state,
    words,
    at.toISOString(),
  ]);
  if (!answer) return;
  await sql.query(
    `update payment_tender set amount = $2, handed = $2, tip = $3, round_up = $4, token = $5, brand = $6,
      last_four = $7,
       card_kind = $8, entry = $9, approval = $10, signature = $11 where id = $1`,
    [
      id,
      answer.amount,
      answer.tip,
      answer.roundUp,
      answer.token,
      answer.brand,
      answer.lastFour,
      answer.cardKind,
      answer.entry,
      answer.approval,
      answer.signature,
    ],
  );
}

export interface TenderTypeRow extends Omit<TenderType, 'foreign'> {
  foreignCurrency: string | null;
  foreignRate: number | null;
}

/** Means of payment as JSON, in the order in which the till offers them. */
export const TENDER_TYPES = `(select json_agg(json_build_object('id', id, 'name', name, 'kind', kind, 'active', active,
    'reference', reference, 'counted', counted, 'opensDrawer', opens_drawer,
    'foreignCurrency', foreign_currency, 'foreignRate', foreign_rate) order by position, id) from tender_type)`;

/** A means of payment as `TENDER_TYPES` has it. */
export const toTenderType = ({ foreignCurrency, foreignRate, ...type }: TenderTypeRow): TenderType => ({
  ...type,
  foreign:
    foreignCurrency !== null && foreignRate !== null
      ? { currency: foreignCurrency, digits: currencyOf(foreignCurrency).digits, rate: foreignRate }
      : null,
});

/** The means of payment in the order in which the till offers them. */
export async function tenderTypes(sql: Reader): Promise<TenderType[]> {
  const { types } = one(
    await sql.query<{ types: TenderTypeRow[] | null }>(`select ${TENDER_TYPES} as types`),
  );
  return (types ?? []).map(toTenderType);
}

/** What a till has to know to take payments. */
export async function paymentFacts(sql: Reader, tillId: number): Promise<PaymentFacts> {
  const [settings] = await sql.query<Omit<PaymentFacts, 'types' | 'terminals' | 'funds'>>(
    `select round_up_step as "roundUpStep", tip_rates as "tipRates", cash_rounding as "cashRounding",
            gift_card_item_id as "giftCardItemId", gift_card_months as "giftCardMonths",
            dormant_months as "dormantMonths"
     from shop`,
  );
  if (!settings) throw new Error('the shop has not been set up');
  return {
    ...settings,
    types: await tenderTypes(sql),
    terminals: await sql.query(
      `select id, name from terminal join till_terminal on terminal_id = id
       where till_id = $1 and active order by till_terminal.position, name`,
      [tillId],
    ),
    funds: await sql.query('select id, name from fund where active order by id'),
  };
}

export interface StoredValueRow extends StoredValueFacts {
  id: number;
  customerId: number | null;
}

const VALUE = `select id, number, kind, state, balance, single_use as "singleUse", expires_on as "expiresOn",
  customer_id as "customerId",
  held_of(id) as held from stored_value`;

/** Stored value by its number. @param lock to be the only one that takes from it */
export async function valueByNumber(sql: Reader, number: string): Promise<StoredValueRow | undefined> {
  const [row] = await sql.query<StoredValueRow>(`${VALUE} where number = $1`, [number]);
  return row;
}

/** The same, locked: whoever comes next waits, and sees what is left. */
export async function lockValue(sql: Writer, number: string): Promise<StoredValueRow | undefined> {
  const known = await valueByNumber(sql, number);
  if (!known) return undefined;
  await takeLocks(sql, { values: [known.id] });
  return valueByNumber(sql, number);
}

export async function shopCurrency(sql: Reader): Promise<string> {
  const [shop] = await sql.query<{ currency: string }>('select currency from shop');
  return shop?.currency ?? '';
}

export async function tillNumber(sql: Reader, tillId: number): Promise<number> {
  const [till] = await sql.query<{ number: number }>('select number from till where id = $1', [tillId]);
  return till?.number ?? 0;
}
