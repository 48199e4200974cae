import { v4 as newId } from 'uuid';
import type { PaymentView, TakeTender } from '../../contract/payment.ts';
import type { TerminalStandIn } from '../../devices/terminal/standIn.ts';
import { tenderTypes } from '../tenders/store.ts';
import type { Answer, Browser } from './browser.ts';
import type { ringUp, TestHouse } from './testHouse.ts';

export type RungUp = Awaited<ReturnType<typeof ringUp>>;

/** The terminals of a test house, to be pressed. */
export const standIn = ({ house }: TestHouse) => house.terminal as TerminalStandIn;

/** The number of each kind of tender. */
export async function typesByKind({ house }: TestHouse): Promise<ReadonlyMap<string, number>> {
  return new Map((await house.database.ask(tenderTypes)).map(({ kind, id }) => [kind, id]));
}

/** A payment for the whole of what was rung up, unless something else is said. */
export function tenderFor(sale: RungUp, typeId: number, more: Partial<TakeTender> = {}): TakeTender {
  return {
    id: newId(),
    basket: sale.basket as TakeTender['basket'],
    expectedTotal: sale.expectedTotal,
    typeId,
    amount: sale.expectedTotal,
    reference: '',
    number: '',
    terminalId: null,
    notPresent: false,
    accountId: null,
    cardOnFileId: null,
    askRoundUp: true,
    ...more,
  };
}

export const take = (browser: Browser, tender: TakeTender): Promise<Answer<PaymentView>> =>
  browser.ask<PaymentView>('POST', '/payment/tenders', tender, { 'idempotency-key': tender.id });

export const view = (browser: Browser, { basket }: RungUp): Promise<Answer<PaymentView>> =>
  browser.ask<PaymentView>('GET', `/payment/baskets/${basket.id}`);

/** The customer taps a card that the bank approves, and gives nothing to the fund. */
export function tap(terminal: TerminalStandIn, serial = 'T-1001'): void {
  terminal.press(serial, { press: 'set', bank: 'approve' });
  if (terminal.face(serial).step === 'round-up') terminal.press(serial, { press: 'round-up', yes: false });
  terminal.press(serial, { press: 'card', entry: 'tap', cardId: 'lantern' });
}
