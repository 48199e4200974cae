import type { GiveRefund, PaymentView, RefundPlan } from '../../contract/payment.ts';
import type { Person } from '../../contract/staff.ts';
import { refunded, type Basket } from '../../core/counter/basket.ts';
import { planRefund, type PaidTender } from '../../core/journal/returns.ts';
import { formatMoney, sum, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { isOpen, mayBeTaken } from '../../core/payment/tender.ts';
import { countersignNeeded, type Facts } from '../counter/priceSale.ts';
import { readyToPay } from '../counter/service.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { checkStillThere } from '../journal/returns/service.ts';
import { returnRules } from '../journal/returns/store.ts';
import { isApprovedBy } from '../staff/store.ts';
import { lockOrigins, paidTendersOf, refundUnderWay, type PaidRow } from './refundStore.ts';
import { paymentView } from './service.ts';
import * as store from './store.ts';

interface Refunding {
  plan: RefundPlan;
  paid: readonly PaidRow[];
  facts: Facts;
  due: Money;
}

const keyOf = ({ saleId, position }: { saleId: string; position: number }): string => `${saleId}:${position}`;

/** How the refund of a basket goes back by the rules of the shop. @throws Problem 409 when the sale is finished */
export async function refundPlan(
  house: House,
  person: Person,
  wanted: { basket: Basket; expectedTotal: Money },
): Promise<RefundPlan> {
  return (await refunding(house, person, wanted)).plan;
}

async function refunding(
  house: House,
  person: Person,
  wanted: { basket: Basket; expectedTotal: Money },
): Promise<Refunding> {
  const ready = await readyToPay(house, person, wanted, house.clock.now());
  if (ready.finished) throw new Problem(409, 'sale-finished', 'This return has been finished already.');
  const { facts, lines, priced, due } = ready;
  const { rows, rules } = await house.database.ask(async (sql) => ({
    rows: await paidTendersOf(sql, [...facts.returns.keys()]),
    rules: await returnRules(sql),
  }));
  const given = facts.tenders.filter(({ state }) => state === 'approved' || isOpen(state));
  const amount = 0 - mayBeTaken(due, facts.tenders);
  // What this basket has sent back along a payment already is not there any more.
  const paid = rows.map((row): PaidRow => {
    const back = given.filter(
      ({ refundsSale, refundsPosition }) => refundsSale === row.saleId && refundsPosition === row.position,
    );
    return { ...row, left: row.left + sum(back.map((tender) => tender.amount)) };
  });
  const open = paid.map((row): PaidTender => {
    const { kind, name, left } = row;
    const told = kind === 'card' || kind === 'stored-value' || kind === 'cash' ? kind : 'other';
    return { id: keyOf(row), kind: told, name, left, open: row.open };
  });
  const credited = sum(
    given
      .filter(({ kind, storedValueId }) => kind === 'stored-value' && storedValueId === null)
      .map((one) => 0 - one.amount),
  );
  const unknown = refunded({ lines: lines.filter(({ comesBack }) => !comesBack?.sale) }, priced);
  const creditOnly = Math.min(amount, Math.max(0, unknown - credited));
  const planned = planRefund(amount, open, { rest: rules.refundRest, creditOnly });
  const plan: RefundPlan = {
    amount,
    creditOnly,
    mostCash: sum(planned.filter(({ to }) => to === 'cash').map((part) => part.amount)),
    parts: planned.map(({ to, tenderId, name, amount: part }) => {
      const along = paid.find((row) => keyOf(row) === tenderId);
      return { to, saleId: along?.saleId ?? null, position: along?.position ?? null, name, amount: part };
    }),
  };
  return { plan, paid, facts, due };
}

/**
 * Gives money back for a basket: along the payments of the sale, in cash or as store credit. Each part is stored before
 * a terminal is asked; when all of it has gone back, the return is finished.
 * @throws Problem 422 where the rules of the shop say otherwise
 */
export async function giveRefund(house: House, person: Person, wanted: GiveRefund): Promise<PaymentView> {
  const at = house.clock.now();
  const basket = wanted.basket as Basket;
  const known = await house.database.ask((sql) => store.tendersOf(sql, basket.id));
  const fresh = wanted.parts.filter(({ id }) => !known.some((one) => one.id === id));
  if (fresh.length === 0) return paymentView(house, basket.id);
  const now = await refunding(house, person, { basket, expectedTotal: wanted.expectedTotal });
  await checkParts(house, person, { ...wanted, parts: fresh }, now);
  const cards = await house.database.write((sql) => addParts(sql, person, basket, fresh, now, at));
  for (const id of cards) await house.terminals.begin(id);
  const view = await paymentView(house, basket.id);
  house.events.tell({ kind: 'payment-changed', tillId: person.tillId, basketId: basket.id });
  return view;
}

async function checkParts(
  house: House,
  person: Person,
  { basket, parts, countersign }: GiveRefund,
  now: Refunding,
): Promise<void> {
  const { plan, paid, facts } = now;
  const { digits } = currencyOf(facts.currency);
  const all = sum(parts.map(({ amount }) => amount));
  if (all > plan.amount) {
    throw fieldProblem('parts', `Only ${formatMoney(plan.amount, digits)} is to be given back.`);
  }
  for (const part of parts.filter(({ to }) => to === 'tender')) {
    const row = paid.find(({ saleId, position }) => saleId === part.saleId && position === part.position);
    if (!row?.open) throw fieldProblem('parts', 'This payment takes no money back. Choose another way.');
    if (part.amount > row.left) {
      throw fieldProblem(
        'parts',
        `${row.name} paid ${formatMoney(row.left, digits)}: no more goes back along it.`,
      );
    }
  }
  const of = (kind: 'cash' | 'store-credit') =>
    sum(parts.filter(({ to }) => to === kind).map(({ amount }) => amount));
  if (of('store-credit') > 0 && !basket.customer) {
    throw fieldProblem('parts', 'Store credit needs a customer: press Esc, then F4.');
  }
  if (all - of('store-credit') > plan.amount - plan.creditOnly) {
    throw fieldProblem(
      'parts',
      `${formatMoney(plan.creditOnly, digits)} comes back without a receipt: it becomes store credit.`,
    );
  }
  if (of('cash') > plan.mostCash) await mayPayCash(house, person, countersign, basket.id);
}

async function mayPayCash(
  { database }: House,
  person: Person,
  countersign: string | undefined,
  basketId: string,
): Promise<void> {
  if (person.rights.includes('refund.cash')) return;
  if (countersign && (await database.ask((sql) => isApprovedBy(sql, countersign, basketId, 'refund.cash'))))
    return;
  throw countersignNeeded(person, 'refund.cash');
}

/**
 * Before a terminal is asked: nobody else gives money back for the same sales, and the goods have not come back
 * meanwhile. @throws Problem 409
 */
async function holdOrigins(sql: Writer, basket: Basket, { returns }: Facts, at: Date): Promise<void> {
  await lockOrigins(sql, [...returns.keys()]);
  for (const [saleId, { receipt }] of returns) {
    if (await refundUnderWay(sql, saleId, basket.id)) {
      throw new Problem(
        409,
        'refund-under-way',
        `Money is being given back for ${receipt} on another till.`,
        {
          detail: 'Wait until it is finished there, or undone; then look at what is left.',
        },
      );
    }
    await checkStillThere(sql, basket, saleId, at);
  }
}

/** Stores the parts with the payment of the basket locked. @returns those that a terminal is to be asked for */
async function addParts(
  sql: Writer,
  person: Person,
  basket: Basket,
  parts: GiveRefund['parts'],
  { facts, due, paid }: Refunding,
  at: Date,
): Promise<string[]> {
  const { tillId, staffId } = person;
  await holdOrigins(sql, basket, facts, at);
  const payment = await store.beginPayment(sql, { basket, due, tillId, staffId, at });
  if (!payment) return [];
  const tenders = await store.tendersOf(sql, basket.id);
  if (tenders.some(({ state }) => isOpen(state))) {
    throw new Problem(409, 'payment-open', 'Another refund of this basket is not answered yet.');
  }
  const left = 0 - mayBeTaken(due, tenders);
  if (sum(parts.map(({ amount }) => amount)) > left) {
    throw new Problem(409, 'payment-changed', 'A part was given back meanwhile. Look again at what is left.');
  }
  const types = await store.tenderTypes(sql);
  const typeOf = (kind: string) => types.find((type) => type.kind === kind)?.id ?? 0;
  const cards: string[] = [];
  for (const { id, to, saleId, position, amount } of parts) {
    const row =
      to === 'tender' ? paid.find((one) => one.saleId === saleId && one.position === position) : undefined;
    const card = row?.kind === 'card';
    if (card) cards.push(id);
    await store.addTender(sql, {
      id,
      basketId: basket.id,
      typeId: row?.typeId ?? (to === 'cash' ? facts.cashType.id : typeOf('stored-value')),
      state: card ? 'stored' : 'approved',
      amount,
      handed: amount,
      reference: '',
      foreignAmount: null,
      storedValueId: row?.storedValueId ?? null,
      terminalId: row?.terminalId ?? null,
      notPresent: false,
      askRoundUp: false,
      cardOnFileId: null,
      token: row?.token ?? null,
      staffId,
      at,
      refund: true,
      refunds: row ? { saleId: row.saleId, position: row.position } : null,
    });
  }
  return cards;
}
