import { watch } from 'vue';
import type { PricedLine } from '../../core/pricing/price.ts';
import type { Money } from '../../core/money.ts';
import { editionHere } from '../net/edition.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { usePointsStore } from '../people/pointsStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentStore } from '../payment/paymentStore.ts';

/** What the customer's window shows. */
export interface CustomerSight {
  /** Which pages the till has. */
  edition: string;
  shop: string;
  currency: string;
  digits: number;
  locale: string;
  phase: 'basket' | 'paying' | 'done';
  lines: {
    id: string;
    name: string;
    quantity: number;
    unit: string;
    net: Money;
    records: PricedLine['records'];
  }[];
  total: Money;
  /** What offers and discounts took off. */
  saved: Money;
  left: Money;
  roundUp: { fund: string; amount: Money } | null;
  given: { fund: string; amount: Money } | null;
  change: Money;
  number: string;
  /** What the sale did to the customer's points, in words; empty where it did nothing. */
  points: string;
}

/** What the customer's window tells the till. */
export type CustomerAnswer = { kind: 'hello' } | { kind: 'round-up'; yes: boolean };

/** The line between a till and its customer's window: both are windows of one browser. */
export const customerChannel = (tillId: number) => new BroadcastChannel(`mondrel.customer.${tillId}`);

/**
 * Tells the customer's window what is rung up, and hears what the customer presses. @returns a function that stops it
 */
export function showCustomer(): () => void {
  const basket = useBasketStore();
  const payment = usePaymentStore();
  const till = useTillStore();
  const points = usePointsStore();
  let channel: BroadcastChannel | undefined;

  function pointsWords(): string {
    const did = basket.phase === 'done' ? basket.finished?.points : null;
    if (!did) return '';
    const used = did.used > 0 ? `, ${points.words(did.used)} used` : '';
    return `${points.words(did.earned)} earned${used}: ${points.words(did.balance)} in all`;
  }

  function sight(): CustomerSight {
    const { priced, lines, finished, phase } = basket;
    const figures = new Map(priced?.lines.map((line) => [line.id, line]));
    const roundUp = phase === 'paying' ? payment.roundUp : null;
    const { roundUp: given } = basket.basket;
    return {
      edition: editionHere(),
      shop: till.facts?.shop.name ?? '',
      currency: till.facts?.currency.code ?? '',
      digits: till.digits,
      locale: till.facts?.shop.locale ?? 'en-US',
      phase,
      lines: lines.map(({ id, name, quantity, unit }) => ({
        id,
        name,
        quantity,
        unit,
        net: figures.get(id)?.net ?? 0,
        records: figures.get(id)?.records ?? [],
      })),
      total: finished && phase === 'done' ? finished.total + finished.donation : basket.due,
      saved: Math.max(0, 0 - (priced?.reductions ?? 0)),
      left: payment.left,
      roundUp: roundUp && { fund: roundUp.fund, amount: roundUp.amount },
      given: given ? { fund: given.fund, amount: given.amount } : null,
      points: pointsWords(),
      change: finished?.change ?? 0,
      number: finished?.number ?? '',
    };
  }

  // What is sent must be plain: it is copied to the other window.
  const send = () => channel?.postMessage(JSON.parse(JSON.stringify(sight())));

  const stopTill = watch(
    () => till.facts?.till.id,
    (tillId) => {
      channel?.close();
      channel = tillId === undefined ? undefined : customerChannel(tillId);
      channel?.addEventListener('message', ({ data }: MessageEvent<CustomerAnswer>) => {
        if (data.kind === 'hello') send();
        else if (data.kind === 'round-up') void payment.giveRoundUp(data.yes);
      });
      send();
    },
    { immediate: true },
  );
  const stopSight = watch(
    () => [
      basket.priced,
      basket.phase,
      basket.finished,
      payment.left,
      payment.roundUp,
      basket.basket.roundUp,
    ],
    send,
  );
  return () => {
    stopTill();
    stopSight();
    channel?.close();
  };
}
