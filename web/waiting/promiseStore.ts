import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { reactive, ref, shallowRef } from 'vue';
import type { StoredBasket } from '../../contract/counter.ts';
import type { LayawayWanted, PromisePage, PromiseStep, PromiseView } from '../../contract/promises.ts';
import type { BasketLine } from '../../core/counter/basket.ts';
import {
  cancelLines,
  depositLines,
  goodsLines,
  moneyLine,
  putPromised,
} from '../../core/counter/promiseBasket.ts';
import { waivedFeeStep } from '../../core/counter/neededRights.ts';
import { dueOf } from '../../core/counter/promisedLines.ts';
import type { Money } from '../../core/money.ts';
import { excuseStep, leaveProblem } from '../../core/promises/may.ts';
import { agreedFee } from '../../core/promises/promised.ts';
import type { Quantity } from '../../core/quantity.ts';
import { read, writeSurely } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What the Counter does with a promise: takes a deposit, hands goods over, or gives it up. */
export type PromiseWork = 'pay' | 'hand-over' | 'cancel';

/** A layaway that was made or added to, and the basket that is on the till now. */
interface Made {
  number: string;
  stored: StoredBasket | null;
}

/** Which promises are listed. */
export interface PromiseFilter {
  show: 'open' | 'attention' | 'all' | 'pick';
  find: string;
  /** Where something is to be picked; nothing is here. */
  placeId: number | null;
  /** Where it was placed, `channel:1` or `partner:2`; empty is anywhere. */
  placedAt: string;
  /** Made from that day on, and until that day; empty is any. */
  from: string;
  to: string;
}

/** What the list, and what is looked at, are read again for. */
const CONCERNS = ['promises-changed', 'channels-changed', 'relays-changed'] as const;

/** What is most likely done with a promise at a till: what was ordered elsewhere and lies here is handed over. */
function usualWork(view: PromiseView, here: number): PromiseWork {
  const lies = view.lines.some((line) => line.handed < line.quantity && leaveProblem(line, here) === null);
  const handsOver = view.held >= view.rest || view.state === 'ready' || (view.placedAt !== null && lies);
  return handsOver ? 'hand-over' : 'pay';
}

/** Things promised to customers: the list of them, one that is looked at, and what a till does with it. */
export const usePromiseStore = defineStore('promise', () => {
  const basket = useBasketStore();
  const work = useBasketWorkStore();
  const ringUp = useRingUpStore();
  const notices = useNoticeStore();
  const till = useTillStore();
  const countersigns = useCountersignStore();
  const filter = reactive<PromiseFilter>({
    show: 'open',
    find: '',
    placeId: null,
    placedAt: '',
    from: '',
    to: '',
  });
  const page = shallowRef<PromisePage | null>(null);
  /** How many want attention today. */
  const attention = ref(0);
  /** The one that is looked at under Waiting. */
  const looked = shallowRef<PromiseView | null>(null);
  /** The one that the Counter deals with, and how. */
  const atCounter = shallowRef<PromiseView | null>(null);
  const doing = ref<PromiseWork>('pay');

  function pageAt(at: number): Promise<PromisePage> {
    const { show, find, placeId, placedAt, from, to } = filter;
    const asked = new URLSearchParams({
      show: show === 'pick' ? 'open' : show,
      find,
      from,
      to,
      page: String(at),
    });
    // What is to be picked is asked for by place.
    if (show === 'pick') asked.set('place', String(placeId ?? till.facts?.till.placeId ?? 0));
    if (placedAt) asked.set('placedAt', placedAt);
    return read<PromisePage>(`/waiting/promises?${asked.toString()}`);
  }

  const lastPages = lastAnswer();
  let pages = 1;
  /** @param count of pages, read together: what comes and goes meanwhile moves rows from one to the next */
  async function load(count = 1): Promise<void> {
    pages = count;
    const found = await lastPages(Promise.all(Array.from({ length: count }, (_, at) => pageAt(at))));
    const [first] = found ?? [];
    if (!found || !first) return;
    attention.value = first.attention;
    const rows = new Map(found.flatMap(({ rows: those }) => those.map((row) => [row.id, row])));
    page.value = { ...first, rows: [...rows.values()] };
  }
  const more = () => load(pages + 1);

  const readOne = (id: string) => read<PromiseView>(`/waiting/promises/${id}`);

  let lookingAt: string | null = null;
  const lastLook = lastAnswer();
  async function look(id: string | null): Promise<void> {
    lookingAt = id;
    const view = await lastLook(id === null ? Promise.resolve(null) : readOne(id));
    if (view !== undefined) looked.value = view;
  }

  function follow(): () => void {
    return lookAgain(CONCERNS, () => Promise.all([load(pages), lookingAt !== null && look(lookingAt)]));
  }

  let making: { key: string; of: string } | undefined;

  /** Sets the goods of the basket aside. @returns the number of the layaway; its deposit is on the till */
  async function make(terms: LayawayWanted): Promise<string> {
    await ringUp.caughtUp();
    const asked = { basket: basket.basket, expectedTotal: basket.total, terms };
    // One key for one basket and one set of terms: pressing twice makes one layaway.
    const of = JSON.stringify(asked);
    if (making?.of !== of) making = { key: newId(), of };
    const made = await writeSurely<Made>('POST', '/waiting/promises/layaways', asked, making.key);
    making = undefined;
    await goOnWith(made);
    return made.number;
  }

  const goOnWith = ({ stored }: Made): Promise<void> =>
    stored ? basket.continueWith(stored) : basket.startAfresh();

  /** What waits for a customer. */
  const openFor = async (customerId: number) =>
    (await read<PromisePage>(`/waiting/promises?show=open&customer=${customerId}`)).rows;

  /** Sets the goods of the basket aside beside those of a layaway. @returns its number */
  async function addTo(id: string): Promise<string> {
    await ringUp.caughtUp();
    const asked = { basket: basket.basket, expectedTotal: basket.total };
    // The basket is the key: it is added once.
    const key = basket.basket.id;
    const added = await writeSurely<Made>('POST', `/waiting/promises/${id}/goods`, asked, key);
    await goOnWith(added);
    return added.number;
  }

  /** Takes a line of goods out of a promise. */
  const takeOut = async (id: string, position: number) =>
    changed(await writeSurely<PromiseView>('DELETE', `/waiting/promises/${id}/goods/${position}`, undefined));

  /** Opens a promise at the Counter; what is most likely to be done with it stands there. */
  async function open(view: PromiseView, what?: PromiseWork): Promise<void> {
    if (basket.phase === 'paying') {
      notices.failed(
        `${view.number} was not opened: finish this payment first, or go one step back with Esc.`,
      );
      return;
    }
    if (view.state === 'asked') {
      notices.failed(`${view.number} was not opened: answer ${view.customer} first, under Waiting.`);
      return;
    }
    atCounter.value = view;
    doing.value = what ?? usualWork(view, till.facts?.till.placeId ?? 0);
    await ringUp.caughtUp();
    work.begin('promise');
  }

  /** The promise that stands on a paper. */
  const numbered = (number: string) =>
    read<PromiseView>(`/waiting/promises/numbered/${encodeURIComponent(number)}`);

  /** Brings what a promise is about to do into the basket. @returns whether it is there */
  async function bring(view: PromiseView, lines: readonly BasketLine[]): Promise<boolean> {
    if (!basket.readyForGoods(view.number)) return false;
    const { customerId: id, customer: name } = view;
    const now = basket.basket;
    // The next key is meant for the basket, however soon it comes.
    work.leave();
    await basket.change({ ...putPromised(now, lines), customer: now.customer ?? { id, name } });
    return true;
  }

  const bringDeposit = (view: PromiseView, amount: Money) =>
    bring(view, [moneyLine(view, 'deposit', amount, newId)]);

  /**
   * What was promised without tax is handed over so, by somebody who may. @returns whether the basket is as it was
   * promised
   */
  async function withoutTax({ number, exemption }: PromiseView): Promise<boolean> {
    if (!exemption || basket.basket.exemption) return true;
    if (basket.basket.lines.length === 0) return work.exempt(exemption.reason, exemption.certificate);
    notices.failed(`${number} was promised without tax: finish the basket first, or put it on hold.`);
    return false;
  }

  /** Goods that leave, with as much of the deposit as can be used for them. @param wanted how many of which line */
  async function bringGoods(view: PromiseView, wanted: ReadonlyMap<number, Quantity>): Promise<boolean> {
    if (!(await withoutTax(view))) return false;
    const goods = goodsLines(view, wanted, newId);
    const { priced } = await catalogue.look({
      ...basket.basket,
      id: newId(),
      lines: goods,
      discounts: undefined,
    });
    const due = dueOf(goods, priced, () => true);
    return bring(view, [...goods, ...depositLines(view, wanted, due, view.keeps, newId)]);
  }

  /**
   * Gives the deposit back, less the fee; less than was agreed is kept once somebody with the right to it has
   * approved it.
   */
  async function bringBack(view: PromiseView, fee: Money, reason: string): Promise<boolean> {
    const agreed = agreedFee(view);
    let countersign: string | undefined;
    if (fee < agreed) {
      const steps = [waivedFeeStep(view.id, agreed, fee)];
      const approval = await countersigns.need(
        'fee.waive',
        basket.basket.id,
        `${view.number}, ${reason}`,
        steps,
      );
      if (!approval) return false;
      countersign = approval.id;
    }
    return bring(view, cancelLines(view, fee, { reason, countersign }, newId));
  }

  function changed(view: PromiseView): PromiseView {
    if (looked.value?.id === view.id) looked.value = view;
    if (atCounter.value?.id === view.id) atCounter.value = view;
    return view;
  }

  /** Notes what came to pass with a promise. */
  const takeStep = async (id: string, step: PromiseStep) =>
    changed(await writeSurely<PromiseView>('POST', `/waiting/promises/${id}/steps`, step));

  /**
   * Lets an order go on without what was to be paid first, once somebody with the right to it has approved it here.
   * @returns the order; nothing where nobody did
   */
  async function excuse(view: PromiseView, reason: string): Promise<PromiseView | null> {
    const about = `${view.number}, ${reason}`;
    const approval = await countersigns.need('order.unpaid', view.id, about, [excuseStep(view.firstPayment)]);
    if (!approval) return null;
    const asked = { reason, ...(approval.id !== undefined && { countersign: approval.id }) };
    return changed(await writeSurely<PromiseView>('POST', `/waiting/orders/${view.id}/excused`, asked));
  }

  /** Gives up a promise of which nothing goes back at a till. */
  const drop = async (id: string, reason: string) =>
    changed(await writeSurely<PromiseView>('POST', `/waiting/promises/${id}/cancelled`, { reason }));

  async function print({ id, number }: PromiseView): Promise<void> {
    await writeSurely('POST', `/waiting/promises/${id}/printed`, {});
    notices.say(`The paper of ${number} is printed.`);
  }

  return {
    filter,
    page,
    attention,
    looked,
    atCounter,
    doing,
    load,
    more,
    look,
    follow,
    make,
    openFor,
    addTo,
    takeOut,
    open,
    numbered,
    bringDeposit,
    bringGoods,
    bringBack,
    changed,
    takeStep,
    excuse,
    drop,
    print,
  };
});
