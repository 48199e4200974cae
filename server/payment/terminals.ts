import {
  TerminalBusy,
  TerminalRefusal,
  TerminalUnreachable,
  type TerminalAnswer,
  type TerminalDriver,
} from '../../devices/terminal/driver.ts';
import { roundUpAmount } from '../../core/payment/roundUp.ts';
import { tenderStep, type TenderEvent } from '../../core/payment/tender.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { House } from '../house.ts';
import { instant } from '../clock.ts';
import { finishVoid, openVoids, refundInstead } from '../journal/voids/service.ts';
import { finishCovered } from './service.ts';
import { changeTender } from './tenderSteps.ts';
import * as store from '../tenders/store.ts';
import type { PaymentTender } from '../tenders/store.ts';
import type { HouseTerminals } from './houseTerminals.ts';

const LOOK_AGAIN_MS = 1_000;
/** How long what a terminal is saying is heard when the server stops. */
const LAST_ANSWERS_MS = 1_500;
/** So long a terminal may take; then the till says that it does not answer. */
const PATIENCE_MS = 90_000;

const EVENT_OF: Partial<Record<TerminalAnswer['state'], TenderEvent>> = {
  approved: 'approve',
  declined: 'decline',
  cancelled: 'cancel',
};

/** @param patience how long a terminal may take, in milliseconds */
export function watchTerminals(
  house: Omit<House, 'terminals'>,
  driver: TerminalDriver,
  patience = PATIENCE_MS,
): HouseTerminals {
  const { database, clock, events, log } = house;
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let running: Promise<void> = Promise.resolve();
  const all = (): House => ({ ...house, terminals: watch });

  /** Puts a payment into its next state. @returns whether something changed */
  async function step(
    id: string,
    event: TenderEvent,
    words: string,
    answer?: TerminalAnswer,
  ): Promise<boolean> {
    let changed = false;
    const tender = await changeTender(all(), id, { event }, async (sql, { state }) => {
      const next = tenderStep(state, event);
      if (!next) return;
      changed = true;
      const card = answer?.card;
      await store.setTender(sql, id, {
        state: next,
        words,
        at: clock.now(),
        answer:
          answer && event === 'approve'
            ? {
                amount: answer.amount,
                tip: answer.tip,
                roundUp: answer.roundUp,
                token: card?.token ?? null,
                brand: card?.brand ?? null,
                lastFour: card?.lastFour ?? null,
                cardKind: card?.kind ?? null,
                entry: answer.entry,
                approval: answer.approval,
                signature: answer.signature,
              }
            : undefined,
      });
    });
    if (!changed) return false;
    const payment = await database.ask((sql) => store.findPayment(sql, tender.basketId));
    if (event === 'approve') {
      await finishCovered(all(), tender.basketId);
      await finishVoid(all(), tender.basketId);
    }
    events.tell({ kind: 'payment-changed', tillId: payment?.tillId ?? 0, basketId: tender.basketId });
    return true;
  }

  /** Takes in what a terminal says of a payment. */
  async function hear(answer: TerminalAnswer): Promise<void> {
    const event = EVENT_OF[answer.state];
    if (!event) return;
    const tender = await database.ask((sql) => store.findTender(sql, answer.reference));
    if (!tender || !tenderStep(tender.state, event)) return;
    await step(tender.id, event, answer.words, answer);
    const now = await database.ask((sql) => store.findTender(sql, tender.id));
    if (now?.state === 'undoing') await watch.sendBack(tender.id);
  }

  async function requestFor(tender: PaymentTender) {
    const facts = await database.ask(async (sql) => {
      const payment = await store.findPayment(sql, tender.basketId);
      const settings = await store.paymentFacts(sql, payment?.tillId ?? 0);
      return {
        payment,
        settings,
        currency: await store.shopCurrency(sql),
        number: await store.tillNumber(sql, payment?.tillId ?? 0),
      };
    });
    const { payment, settings, currency, number } = facts;
    const fund = settings.funds[0];
    const goods = payment?.due ?? 0;
    const more = payment?.basket?.roundUp ? 0 : roundUpAmount(goods, settings.roundUpStep || 1);
    const earlier = await database.ask((sql) => store.tendersOf(sql, tender.basketId));
    // The customer is asked once: not on screen and here, and not with every part.
    const asked =
      !tender.askRoundUp ||
      earlier.some(({ state, terminalId }) => state === 'approved' && terminalId !== null);
    const present = !tender.notPresent && tender.token === null;
    return {
      reference: tender.id,
      from: `Till ${number}`,
      amount: tender.amount,
      currency,
      digits: currencyOf(currency).digits,
      tips: present ? settings.tipRates : [],
      roundUp: present && fund && more > 0 && !asked ? { amount: more, fund: fund.name } : null,
      notPresent: tender.notPresent,
      token: tender.token,
    };
  }

  /** Gives money back to a card by its token; the answer comes at once. */
  async function refund({ id, serial, token, amount }: PaymentTender): Promise<void> {
    if (!serial || token === null) return;
    if (!(await step(id, 'ask', 'The card terminal is asked to give it back.'))) return;
    await hear(await driver.refund(serial, { reference: id, token, amount: 0 - amount }));
  }

  /** Looks after one payment that is not at its end. */
  async function follow(tender: PaymentTender): Promise<void> {
    const { id, serial, state } = tender;
    if (!serial) return void (await step(id, 'cancel', 'No terminal was asked.'));
    if (state === 'undoing') return watch.sendBack(id);
    if (state === 'stored') {
      // Nobody has asked the terminal: the server stopped in between.
      await step(id, 'cancel', 'The till stopped before the terminal was asked.');
      return;
    }
    await watch.check(tender);
  }

  async function lookAround(): Promise<void> {
    const pending = await database.ask(store.pendingTenders);
    const mine = pending.filter(({ id }) => !beginning.has(id));
    for (const tender of mine) {
      if (stopped) return;
      await follow(tender).catch((error: unknown) =>
        log.error({ err: error }, 'a payment could not be followed'),
      );
    }
    if (pending.length > 0 && !stopped) again();
  }

  function again(): void {
    clearTimeout(timer);
    timer = setTimeout(() => watch.wake(), LOOK_AGAIN_MS);
    timer.unref();
  }

  const beginning = new Set<string>();
  const deaf = driver.onAnswer((_serial, answer) => {
    void hear(answer).catch((error: unknown) => log.error({ err: error }, 'an answer could not be taken in'));
  });

  const watch: HouseTerminals = {
    async begin(id) {
      beginning.add(id);
      try {
        const tender = await database.ask((sql) => store.findTender(sql, id));
        if (!tender?.serial || tender.state !== 'stored') return;
        if (tender.refund) return await refund(tender);
        const request = await requestFor(tender);
        if (!(await step(id, 'ask', 'The card terminal is asked.'))) return;
        await driver.ask(tender.serial, request);
      } catch (error) {
        if (error instanceof TerminalBusy || error instanceof TerminalRefusal) {
          await step(id, 'cancel', error.message);
        } else if (error instanceof TerminalUnreachable) {
          await step(id, 'silence', error.message);
        } else throw error;
      } finally {
        beginning.delete(id);
        again();
      }
    },

    async callOff({ id, serial, state }) {
      if (!serial || (state !== 'asked' && state !== 'unanswered')) return;
      try {
        await driver.cancel(serial, id);
        await hear(await driver.status(serial, id));
      } catch (error) {
        if (!(error instanceof TerminalUnreachable)) throw error;
        await step(id, 'silence', error.message);
      }
    },

    async check({ id, serial, state, changedAt }) {
      if (!serial) return;
      try {
        const answer = await driver.status(serial, id);
        if (answer.state === 'unknown') await step(id, 'cancel', 'The terminal was never asked.');
        else if (answer.state !== 'waiting') await hear(answer);
        else if (state === 'asked' && clock.now().getTime() - instant(changedAt).toMillis() > patience) {
          await step(id, 'silence', 'The card terminal takes very long.');
        }
      } catch (error) {
        if (!(error instanceof TerminalUnreachable)) throw error;
        await step(id, 'silence', error.message);
      }
    },

    async sendBack(id) {
      const tender = await database.ask((sql) => store.findTender(sql, id));
      if (tender?.state !== 'undoing' || !tender.serial) return;
      try {
        const answer = await driver.reverse(tender.serial, id);
        const gone = answer.state !== 'approved';
        const back = tender.refund ? 'Taken back from the card.' : 'Sent back to the card.';
        await step(id, gone ? 'sent-back' : 'not-sent-back', gone ? back : answer.words);
        if (gone) await finishVoid(all(), tender.basketId);
      } catch (error) {
        if (error instanceof TerminalRefusal) {
          await step(id, 'not-sent-back', error.message);
          await refundInstead(all(), tender, error.message);
        }
        // It is tried again until the terminal can be reached.
        else if (error instanceof TerminalUnreachable) again();
        else throw error;
      }
    },

    wake() {
      if (stopped) return;
      running = running
        .then(lookAround)
        .catch((error: unknown) => log.error({ err: error }, 'payments could not be followed'));
    },

    async stop() {
      stopped = true;
      clearTimeout(timer);
      deaf();
      // A terminal that does not answer must not keep the server from stopping.
      let patienceEnds: NodeJS.Timeout | undefined;
      const enough = new Promise<void>((done) => {
        patienceEnds = setTimeout(done, LAST_ANSWERS_MS);
      });
      await Promise.race([running, enough]);
      clearTimeout(patienceEnds);
    },
  };
  return watch;
}

/** After a start: what was covered when the server stopped is finished now. */
export async function finishWhatIsCovered(house: House): Promise<void> {
  const open = await house.database.ask(store.openPayments);
  for (const saleId of await house.database.ask(openVoids)) {
    await finishVoid(house, saleId).catch((error: unknown) =>
      house.log.error({ err: error, saleId }, 'a void could not be finished'),
    );
  }
  for (const basketId of open) {
    await finishCovered(house, basketId).catch((error: unknown) =>
      house.log.error({ err: error, basketId }, 'a covered sale could not be finished'),
    );
  }
}
