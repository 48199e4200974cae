import type { FinishedSale, FinishSale, SaveBasket } from '../../contract/counter.ts';
import type { Person } from '../../contract/staff.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { takesPoints } from '../../core/counter/basketCodes.ts';
import { carriedApprovals, takenOut } from '../../core/counter/neededRights.ts';
import { formatMoney, type Money } from '../../core/money.ts';
import { sharesUses } from '../../core/offers/offer.ts';
import { pointsTaken } from '../../core/pricing/price.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { cashRounding } from '../../core/payment/cash.ts';
import { roundUpAmount } from '../../core/payment/roundUp.ts';
import { isOpen, taken } from '../../core/payment/tender.ts';
import type { Writer } from '../db/database.ts';
import { typeOf } from '../../core/payment/tenderType.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { isRepeat, type Asked } from '../http/write.ts';
import { claimOffers } from '../offers/service.ts';
import { claimPoints } from '../people/pointsClaim.ts';
import { deviceAsked, markStale, moneyHeld } from '../tenders/store.ts';
import { approvalProblem } from '../../core/staff/approval.ts';
import { approvalsOf, countersignNeeded, takerOf, useApprovals } from '../staff/approval.ts';
import { checkRights, factsFor, figuresDiffer, figuresFor, priceFromFacts, type Facts } from './priceSale.ts';
import type { FinalTender } from './saleToFinish.ts';
import { finalTender, storeSale } from './storeSale.ts';
import * as store from './store.ts';

/**
 * Stores the basket of a till; asked again with the same key, it is stored once.
 * @throws Problem 409 when it was changed elsewhere or its sale is finished
 */
export async function saveBasket(
  sql: Writer,
  person: Person,
  { basket, revision }: SaveBasket,
  key: string,
  at: Date,
): Promise<{ revision: number }> {
  await takeLocks(sql, { tills: [person.tillId], payments: [basket.id] });
  if (await store.isFinished(sql, basket.id)) {
    throw new Problem('sale-finished', 'This basket has been paid already.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  // What was sent before it was put aside may arrive after it.
  if (await store.isPutAside(sql, basket.id)) {
    throw new Problem('basket-held', 'This basket was put on hold, or set aside.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  // While a terminal is asked, what it is asked for must not change; money must not be left behind.
  if (await deviceAsked(sql, basket)) {
    throw new Problem('payment-open', 'The card terminal is being asked for this basket.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  if (await moneyHeld(sql, person.tillId, basket.id)) {
    throw new Problem(
      'money-taken',
      'Money was taken for the basket before. Finish it, or undo its payments.',
      {
        data: await store.basketOf(sql, person.tillId),
      },
    );
  }
  await checkTakingOut(sql, person, basket, at);
  await useFreshApprovals(sql, person, basket, at);
  const stored = await store.putBasket(sql, person.tillId, basket, revision, at, key);
  if (stored === undefined) {
    const data = await store.basketOf(sql, person.tillId);
    if (data?.savedBy === key) return { revision: data.revision };
    throw new Problem('basket-changed', 'The basket was changed in another window of this till.', { data });
  }
  await markStale(sql, basket);
  return { revision: stored };
}

/** Once payment has begun, goods leave the basket only with the right, or an approval that names them. */
async function checkTakingOut(sql: Writer, person: Person, basket: Basket, at: Date): Promise<void> {
  const before = (await store.basketOf(sql, person.tillId))?.basket;
  if (before?.id !== basket.id || !before.paymentBegan) return;
  if (!basket.paymentBegan) throw fieldProblem('basket', 'The payment of this basket has begun.');
  const steps = takenOut(before, basket).map(({ step }) => step);
  const right = 'line.remove-late';
  if (steps.length === 0 || person.rights.includes(right)) return;
  const taker = takerOf(person, basket.id, at);
  const open = (await approvalsOf(sql, basket.id)).filter(
    (one) => one.right === right && one.usedFor === null,
  );
  const approval = open.find((one) => approvalProblem(one, right, steps, taker) === null);
  if (approval) return useApprovals(sql, [approval], basket.id, at);
  const [nearest] = open;
  const problem = approvalProblem(nearest, right, steps, taker) ?? { kind: 'none' as const };
  const needed = { right, about: basket.id, steps } as const;
  throw countersignNeeded(person, needed, problem, 0, (await store.basketOf(sql, person.tillId)) ?? {});
}

/** What a basket carries of approvals is used by it from now on, if they were given for it just now. */
async function useFreshApprovals(sql: Writer, person: Person, basket: Basket, at: Date): Promise<void> {
  const carried = carriedApprovals(basket);
  if (carried.size === 0) return;
  const taker = takerOf(person, basket.id, at);
  const fresh = (await approvalsOf(sql, basket.id)).filter(
    (one) =>
      carried.has(one.id) && one.usedFor === null && approvalProblem(one, one.right, [], taker) === null,
  );
  if (fresh.length > 0) await useApprovals(sql, fresh, basket.id, at);
}

/**
 * What a person asks for when a basket is to be paid: priced again, checked, and ready to be stored.
 * @param asked the request that pays it; where it was carried out before, and the sale is not finished, it paid in part
 */
export async function readyToPay(
  house: House,
  person: Person,
  wanted: { basket: Basket; expectedTotal: Money },
  at: Date,
  asked?: Asked,
) {
  const { basket } = wanted;
  if (basket.lines.length === 0) throw fieldProblem('basket', 'The basket is empty: scan something first.');
  const facts = await factsFor(house, person, basket, at, asked);
  const repeated = asked !== undefined && isRepeat(asked, facts.asked);
  if (facts.finished) return { finished: facts.finished };
  if (repeated) return { finished: 'in-part' as const };
  const figures = await figuresFor(house, basket, facts, at);
  const { lines, priced } = figures;
  const approvals = checkRights(person, { ...basket, lines }, priced, facts, at);
  if (priced.total !== wanted.expectedTotal)
    throw figuresDiffer({ ...basket, lines }, priced, facts.currency);
  checkRoundUp(basket, priced.total, facts);
  if (approvals.length > 0) await house.database.write((sql) => useApprovals(sql, approvals, basket.id, at));
  const due = priced.total + (basket.roundUp?.amount ?? 0);
  return { facts: { ...facts, codes: figures.codes }, lines, priced, figures, due, finished: null };
}

function checkRoundUp({ roundUp }: Basket, total: Money, { roundUpStep, fundId }: Facts): void {
  if (!roundUp) return;
  if (roundUpStep > 0 && roundUp.fundId === fundId && roundUp.amount === roundUpAmount(total, roundUpStep))
    return;
  throw fieldProblem('basket.roundUp', 'The total has changed: ask again whether it is to be rounded up.');
}

/**
 * Finishes a sale with cash for what is left: prices the basket again from the server's own data, then stores the
 * sale, its tenders, stock moves, ledger entries and receipt in one transaction. The basket's id makes a repeat
 * harmless.
 * @throws Problem 409 `figures-differ` with the right figures when the screen showed others; nothing is taken then
 */
export async function finishSale(
  house: House,
  person: Person,
  wanted: FinishSale,
  asked: Asked,
): Promise<FinishedSale> {
  const at = house.clock.now();
  const ready = await readyToPay(house, person, wanted, at, asked);
  if (ready.finished === 'in-part') throw new Error('a request that finishes a sale is noted with the sale');
  return ready.finished ?? finishWithCash(house, person, { ...wanted, asked }, ready, at);
}

/** What a basket comes to, once everything about it was checked. */
type ReadyToPay = Extract<Awaited<ReturnType<typeof readyToPay>>, { finished: null }>;

/** The same, for a basket that is ready to be paid. @throws Problem 409 or 422 when cash does not finish it */
export async function finishWithCash(
  house: House,
  person: Person,
  { basket, handed, asked }: Pick<FinishSale, 'basket' | 'handed'> & { asked: Asked },
  { facts, lines, priced, due }: ReadyToPay,
  at: Date,
): Promise<FinishedSale> {
  if (facts.tenders.some(({ state }) => isOpen(state))) {
    throw new Problem('payment-open', 'The card terminal is still being asked. Wait, or call it off.');
  }
  const left = due - taken(facts.tenders);
  const { digits } = currencyOf(facts.currency);
  if (due < 0 ? left > 0 : left < 0) {
    throw new Problem(
      'too-much-taken',
      `${formatMoney(Math.abs(left), digits)} too much was taken. Undo a payment first.`,
    );
  }
  const rounding = Math.sign(left) * cashRounding(Math.abs(left), facts.cashRounding);
  const toPay = left + rounding;
  if (left < 0) throw refundFirst(-left, digits);
  if (handed < toPay) {
    const missing = formatMoney(toPay - handed, digits);
    throw fieldProblem('handed', `${formatMoney(handed, digits)} does not cover it: ${missing} is missing.`);
  }
  const approved = facts.tenders.filter(({ state }) => state === 'approved');
  const tenders = approved.map((tender) => finalTender(tender, { facts, basket }));
  if (toPay > 0) tenders.push(cashTender(facts, toPay, handed));
  return storeSale(house, {
    basket,
    facts,
    lines,
    priced,
    tenders,
    roundUp: approved.reduce((all, { roundUp }) => all + roundUp, 0),
    cashRounding: rounding,
    tillId: person.tillId,
    staffId: person.staffId,
    at,
    asked,
  });
}

const refundFirst = (amount: Money, digits: number): Problem =>
  fieldProblem('handed', `${formatMoney(amount, digits)} goes back to the customer: choose how.`);

/** Cash that is handed over, or goes back where it is below zero. */
export function cashTender({ types }: Pick<Facts, 'types'>, amount: Money, handed: Money): FinalTender {
  const { id, name } = typeOf(types, 'cash');
  return {
    kind: 'cash',
    typeId: id,
    name,
    amount,
    handed,
    tip: 0,
    reference: '',
    foreignAmount: null,
    storedValueId: null,
    accountId: null,
    paymentTenderId: null,
    subject: '',
  };
}

/**
 * Holds what a basket uses of offers with limits and of points, so that it is not promised twice.
 * @param shown uses of limited offers and points as the screen shows them
 * @throws Problem 409 `offer-used-up`
 */
export async function claimForBasket(
  house: House,
  person: Person,
  basket: Basket,
  shown: { offers: readonly { offerId: number; uses: number }[]; points: number },
): Promise<void> {
  const at = house.clock.now();
  const facts = await factsFor(house, person, basket, at);
  const limited = new Set(facts.offers.offers.filter(sharesUses).map(({ id }) => id));
  if (facts.finished || (limited.size === 0 && !takesPoints(basket))) return;
  const { priced } = await priceFromFacts(house, basket, facts, at);
  await house.database.write(async (sql) => {
    await claimOffers(sql, basket, { priced, shown: shown.offers }, facts, at);
    await claimPoints(sql, basket, { points: pointsTaken(priced), shown: shown.points }, at);
  });
  // Other tills see at once what is left.
  if (priced.offers.some(({ id }) => limited.has(id))) house.events.tell({ kind: 'shop-changed' });
}
