import type { GiveRefund, PaymentView, RefundPlan } from '../../contract/payment.ts';
import type { Person } from '../../contract/staff.ts';
import { refunded, type Basket, type BasketLine } from '../../core/counter/basket.ts';
import { planRefund, type PaidTender } from '../../core/journal/returns.ts';
import { formatMoney, sum, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import {
  cashRefundStep,
  paidTo,
  refundProblem,
  type RefundProblem,
  type WantedRefund,
} from '../../core/payment/refund.ts';
import { holdsMoney, isOpen, mayBeTaken } from '../../core/payment/tender.ts';
import type { Facts } from '../counter/priceSale.ts';
import { readyToPay } from '../counter/service.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { tenderKind } from '../../core/payment/tenderKinds.ts';
import { typeOf } from '../../core/payment/tenderType.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { checkStillThere } from '../journal/returns/service.ts';
import { returnRules } from '../journal/returns/store.ts';
import { businessDate } from '../clock.ts';
import { accountsFor } from '../people/accountStore.ts';
import { approvalFor } from '../staff/approval.ts';
import { depositSalesBehind } from '../promises/store.ts';
import { paidTendersOf, refundUnderWay, type PaidRow } from './refundStore.ts';
import { paymentView } from './service.ts';
import { beginPayment } from '../tenders/begin.ts';
import * as store from '../tenders/store.ts';

/** A return that is ready to be refunded: checked, priced, and what that came to. */
type Ready = Extract<Awaited<ReturnType<typeof readyToPay>>, { finished: null }>;

interface Refunding {
  plan: RefundPlan;
  paid: readonly PaidRow[];
  /** The house account that it may go onto. */
  accountId: number | null;
}

const keyOf = ({ saleId, position }: { saleId: string | null; position: number | null }): string =>
  `${saleId ?? ''}:${position ?? ''}`;

/** How the refund of a basket goes back by the rules of the shop. @throws Problem 409 when the sale is finished */
export async function refundPlan(
  house: House,
  person: Person,
  wanted: { basket: Basket; expectedTotal: Money },
): Promise<RefundPlan> {
  const ready = await readyToRefund(house, person, wanted);
  return (
    await house.database.ask((sql) =>
      planFor(sql, ready, { basket: wanted.basket, tenders: ready.facts.tenders, at: house.clock.now() }),
    )
  ).plan;
}

async function readyToRefund(
  house: House,
  person: Person,
  wanted: { basket: Basket; expectedTotal: Money },
): Promise<Ready> {
  const ready = await readyToPay(house, person, wanted, house.clock.now());
  if (ready.finished) throw new Problem('sale-finished', 'This return has been finished already.');
  return ready;
}

/**
 * The sales along whose payments money goes back: those that goods come from, and those that brought deposits, for
 * goods that were promised or for a promise that is given up.
 */
async function salesBehind(
  sql: Reader,
  { returns, promises }: Facts,
  lines: readonly BasketLine[],
): Promise<string[]> {
  const origins = [...returns.keys()];
  const given = lines.flatMap(({ promised }) =>
    promised?.part === 'back' ? (promises.get(promised.promiseId)?.depositSales ?? []) : [],
  );
  return [...new Set([...origins, ...given, ...(await depositSalesBehind(sql, origins))])];
}

/** @param of the basket, and its tenders as they are now */
async function planFor(
  sql: Reader,
  { facts, lines, priced, due }: Ready,
  { basket, tenders, at }: { basket: Basket; tenders: readonly store.PaymentTender[]; at: Date },
): Promise<Refunding> {
  // What goes back along a payment just now, in whichever basket, is not there any more.
  const paid = await paidTendersOf(sql, await salesBehind(sql, facts, lines));
  const rules = await returnRules(sql);
  const account = await accountOf(sql, basket, facts, at);
  const amount = 0 - mayBeTaken(due, tenders);
  const open = paid.map((row): PaidTender => {
    const { kind, name, left } = row;
    const known = ['card', 'stored-value', 'account', 'cash'] as const;
    const told = known.find((one) => one === kind) ?? 'other';
    return { id: keyOf(row), kind: told, name, left, open: row.open };
  });
  const credited = sum(
    tenders
      .filter(({ state }) => holdsMoney(state))
      .filter(
        ({ kind, storedValueId, refundsSale }) =>
          (kind === 'stored-value' && storedValueId === null) || (kind === 'account' && refundsSale === null),
      )
      .map((one) => 0 - one.amount),
  );
  const unknown = refunded(
    { lines: lines.filter(({ comesBack, promised, account }) => !comesBack?.sale && !promised && !account) },
    priced,
  );
  const creditOnly = Math.min(amount, Math.max(0, unknown - credited));
  const planned = planRefund(amount, open, { rest: rules.refundRest, creditOnly });
  const plan: RefundPlan = {
    amount,
    creditOnly,
    // What is over on an account is paid out of it: not onto it again.
    account: lines.some((line) => line.account) ? null : (account?.name ?? null),
    mostCash: sum(planned.filter(({ to }) => to === 'cash').map((part) => part.amount)),
    parts: planned.map(({ to, tenderId, name, amount: part }) => {
      const along = paid.find((row) => keyOf(row) === tenderId);
      return { to, saleId: along?.saleId ?? null, position: along?.position ?? null, name, amount: part };
    }),
  };
  return { plan, paid, accountId: plan.account === null ? null : (account?.id ?? null) };
}

/** The house account that a refund may go onto: the customer's own, or the one that they buy on. */
async function accountOf(sql: Reader, { customer }: Basket, { timezone }: Facts, at: Date) {
  if (!customer) return undefined;
  const [account] = await accountsFor(sql, customer.id, businessDate(at, timezone));
  return account;
}

/**
 * Gives money back for a basket: along the payments of the sale, in cash or as store credit. Each part is stored before
 * a terminal is asked; when all of it has gone back, the return is finished.
 * @throws Problem 422 where the rules of the shop say otherwise
 */
export async function giveRefund(
  house: House,
  person: Person,
  wanted: GiveRefund,
  asked: Asked,
): Promise<PaymentView> {
  const basket = wanted.basket as Basket;
  const known = await house.database.ask(async (sql) => {
    const again = await wasCarriedOut(sql, asked);
    return again ? null : store.tendersOf(sql, basket.id);
  });
  const fresh = wanted.parts.filter(({ id }) => !known?.some((one) => one.id === id));
  if (!known || fresh.length === 0) return paymentView(house, basket.id);
  const ready = await readyToRefund(house, person, { basket, expectedTotal: wanted.expectedTotal });
  const cards = await house.database.write((sql) =>
    addParts(sql, person, { ...wanted, basket, parts: fresh }, ready, asked, house.clock.now()),
  );
  for (const id of cards) await house.terminals.begin(id);
  const view = await paymentView(house, basket.id);
  house.events.tell({ kind: 'payment-changed', tillId: person.tillId, basketId: basket.id });
  return view;
}

function refused(problem: RefundProblem, digits: number): Problem {
  const words = (): string => {
    switch (problem.kind) {
      case 'same-id':
        return 'Two parts have the same id: ask again with one for each.';
      case 'too-much':
        return `Only ${formatMoney(problem.amount, digits)} is to be given back.`;
      case 'not-along':
        return `${problem.name} takes no money back. Choose another way.`;
      case 'too-much-along':
        return `${problem.name} paid ${formatMoney(problem.left, digits)}: no more goes back along it.`;
      case 'no-customer':
        return 'Store credit needs a customer: press Esc, then F4.';
      case 'no-account':
        return 'This customer has no house account.';
      case 'credit-only':
        return `${formatMoney(problem.amount, digits)} comes back without a receipt: it becomes store credit.`;
    }
  };
  return fieldProblem('parts', words());
}

/**
 * Before a terminal is asked: nobody else gives money back for the same sales, and the goods have not come back
 * meanwhile. @throws Problem 409
 */
async function checkOrigins(sql: Writer, basket: Basket, { returns }: Facts, at: Date): Promise<void> {
  for (const [saleId, { receipt }] of returns) {
    if (await refundUnderWay(sql, saleId, basket.id)) {
      throw new Problem('refund-under-way', `Money is being given back for ${receipt} on another till.`, {
        detail: 'Wait until it is finished there, or undone; then look at what is left.',
      });
    }
    await checkStillThere(sql, basket, saleId, at);
  }
}

/**
 * Stores the parts with the payment of the basket and the sales it comes from locked: what may go back is asked there,
 * of all parts together. @returns those that a terminal is to be asked for
 */
async function addParts(
  sql: Writer,
  person: Person,
  { basket, parts, countersign }: GiveRefund & { basket: Basket },
  ready: Ready,
  asked: Asked,
  at: Date,
): Promise<string[]> {
  const { tillId, staffId } = person;
  const { facts, due, figures } = ready;
  const begun = await beginPayment(
    sql,
    { basket, due, figures, tillId, staffId, at },
    { sales: await salesBehind(sql, facts, ready.lines) },
  );
  if (!begun || !(await noteAsked(sql, asked, at))) return [];
  const { tenders } = begun;
  await checkOrigins(sql, basket, facts, at);
  if (tenders.some(({ state }) => isOpen(state))) {
    throw new Problem('payment-open', 'Another refund of this basket is not answered yet.');
  }
  const { plan, paid, accountId } = await planFor(sql, ready, { basket, tenders, at });
  const wanted = parts.map((part): WantedRefund => ({
    ...part,
    along: part.to === 'tender' ? keyOf(part) : null,
  }));
  const problem = refundProblem(
    {
      ...plan,
      payments: paid.map((row) => ({ ...row, key: keyOf(row) })),
      hasCustomer: Boolean(basket.customer),
      hasAccount: accountId !== null,
    },
    wanted,
  );
  if (problem) throw refused(problem, currencyOf(facts.currency).digits);
  const cash = paidTo(wanted, 'cash');
  if (cash > plan.mostCash) {
    await approvalFor(sql, person, {
      about: basket.id,
      countersign,
      right: 'refund.cash',
      step: cashRefundStep(cash),
      at,
    });
  }
  const cards: string[] = [];
  for (const part of parts) {
    const { id, to, amount } = part;
    const row = to === 'tender' ? paid.find((one) => keyOf(one) === keyOf(part)) : undefined;
    const card = row !== undefined && tenderKind(row.kind).asksDevice;
    if (card) cards.push(id);
    await store.addTender(sql, {
      id,
      basketId: basket.id,
      typeId: row?.typeId ?? typeOf(facts.types, to === 'cash' || to === 'account' ? to : 'stored-value').id,
      state: card ? 'stored' : 'approved',
      amount,
      handed: amount,
      reference: '',
      foreignAmount: null,
      storedValueId: row?.storedValueId ?? null,
      accountId: to === 'account' ? accountId : (row?.accountId ?? null),
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
