import { useRoute, useRouter, type Router } from 'vue-router';
import type { JournalPage } from '../../contract/journal.ts';
import type { Item } from '../../core/goods/item.ts';
import { wordsOf } from '../../core/words.ts';
import { parseReceiptNumber } from '../../core/journal/receiptNumber.ts';
import { parseTicketNumber } from '../../core/journal/holdTicket.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useCustomerStore } from '../people/customerStore.ts';
import { isOrderReference } from '../../core/promises/channel.ts';
import { parsePromiseNumber } from '../../core/promises/promiseNumber.ts';
import { usePromiseStore } from '../waiting/promiseStore.ts';
import { useWaitingStore } from '../waiting/waitingStore.ts';
import { read } from '../net/api.ts';
import { ApiProblem } from '../net/problem.ts';
import { useReturnStore } from '../journal/returnStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { usePaymentStore } from '../payment/paymentStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketOffersStore } from '../sale/basketOffersStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';

/** A kind of thing, other than goods, that the entry field takes. Each room adds its own here. */
interface EntryKind {
  /** Whether the text looks like one. */
  looks(text: string): boolean;
  /** Takes it up. @returns false when there is none after all, and the text may mean something else */
  take(text: string, router: Router): Promise<boolean>;
}

const receipt: EntryKind = {
  looks: (text) => parseReceiptNumber(text) !== null,
  async take(text, router) {
    const { rows } = await read<JournalPage>(`/journal/sales?find=${encodeURIComponent(text)}`);
    if (!rows[0]) return false;
    // At the Counter somebody stands there with the receipt and the goods.
    if (router.currentRoute.value.path === '/counter' && useSessionStore().may('return.take')) {
      await useReturnStore().open(rows[0].id);
    } else await router.push(`/journal/${rows[0].id}`);
    return true;
  },
};

const heldBasket: EntryKind = {
  looks: (text) => parseTicketNumber(text) !== null,
  async take(text, router) {
    const waiting = useWaitingStore();
    await waiting.load();
    const held = waiting.held.find(({ number }) => number === text.toUpperCase());
    if (!held) {
      useNoticeStore().failed(`${text.toUpperCase()} waits no more: it was taken up.`);
      return true;
    }
    if (await waiting.takeUp(held)) await router.push('/counter');
    return true;
  },
};

/** The paper of a layaway: it is paid off or handed over. */
const promise: EntryKind = {
  looks: (text) => parsePromiseNumber(text) !== null,
  take: (text, router) => openNumbered(text, router),
};
/** An order under the number that it has where it was placed: it looks like an item's. */
const channelOrder: EntryKind = {
  looks: isOrderReference,
  take: (text, router) => openNumbered(text, router, { waits: false }),
};

/** @param waits until it is open; what is itself among what is rung up cannot wait for that to be done */
async function openNumbered(text: string, router: Router, { waits } = { waits: true }): Promise<boolean> {
  const promises = usePromiseStore();
  const view = await promises.numbered(text).catch((error: unknown) => {
    if (error instanceof ApiProblem) return null;
    throw error;
  });
  if (!view) return false;
  // While a partner has it, or waits for an answer, there is nothing to do at the Counter: what was said is looked at.
  if (view.state === 'asked' || (view.relay && view.state !== 'begun' && view.state !== 'delivered')) {
    await router.push(`/waiting/${view.id}`);
    return true;
  }
  if (router.currentRoute.value.path !== '/counter') await router.push('/counter');
  const opening = promises.open(view);
  if (waits) await opening;
  return true;
}

/** A basket that was put on hold under a name; where several have it, they are listed. */
const heldByName: EntryKind = {
  looks: (text) => heldUnder(text).length > 0,
  async take(text, router) {
    // An item that has it as its number comes first.
    if (await catalogue.recognise(text)) return false;
    const waiting = useWaitingStore();
    await waiting.load();
    const [held, ...others] = heldUnder(text);
    if (!held) return false;
    if (others.length > 0) await router.push('/waiting');
    else if (await waiting.takeUp(held)) await router.push('/counter');
    return true;
  },
};
const heldUnder = (text: string) => {
  const name = wordsOf(text).join(' ');
  return name === '' ? [] : useWaitingStore().held.filter((one) => wordsOf(one.name).join(' ') === name);
};

/** A code that the shop has given out for everybody; the till knows it by sight. */
const openCode: EntryKind = {
  looks: (text) => useTillStore().facts?.offerCodes.includes(text.toUpperCase()) ?? false,
  take: (text) => useBasketOffersStore().takeCode(text),
};

/** A code that opens an offer once looks like any code. */
const singleCode: EntryKind = {
  looks: (text) => /^[\dA-Z-]{4,40}$/i.test(text),
  take: (text) => useBasketOffersStore().takeCode(text),
};

const customerCard: EntryKind = {
  looks: (text) => /^[\dA-Z-]{6,40}$/i.test(text),
  take: (text) => useCustomerStore().takeCard(text),
};

const cardInPeople: EntryKind = {
  looks: customerCard.looks,
  async take(text, router) {
    const found = await useCustomerStore().findCard(text);
    if (found && found !== 'stopped') await router.push(`/people/${found.id}`);
    return found !== null;
  },
};

/** A gift card or certificate pays where payment is being taken; else its balance is shown, and it can be topped up. */
const storedValue: EntryKind = {
  looks: (text) => /^[\dA-Z -]{4,40}$/i.test(text),
  async take(text, router) {
    const payment = usePaymentStore();
    const found = await payment.lookUp(text);
    const paying = useBasketStore().phase === 'paying';
    // Whoever pays with a card is not told that its code is unknown; at other times it may be goods.
    if (found === 'later') return paying;
    if (!found) return false;
    payment.scanned = found.number;
    if (paying) {
      payment.chosenId = payment.types.find(({ kind }) => kind === 'stored-value')?.id ?? null;
    } else {
      await router.push('/counter');
      useBasketWorkStore().begin('gift-card');
    }
    return true;
  },
};

/** Kinds that have a form of their own, by which they are known at once. */
const OWN_FORM: readonly EntryKind[] = [receipt, heldBasket, promise, heldByName, openCode];

/** Kinds that look like any code: tried where no item has it. */
const ANY_CODE: readonly EntryKind[] = [channelOrder, customerCard, storedValue, singleCode];

/** Does something at the Counter. Whoever is asked first whether to leave their page is so again when it is done. */
export async function atCounter<T>(router: Router, work: () => Promise<T>): Promise<T> {
  const elsewhere = router.currentRoute.value.path !== '/counter';
  const stays = elsewhere && (await router.push('/counter'));
  const done = await work();
  if (stays) await router.push('/counter');
  return done;
}

/** @returns what takes anything that was scanned or typed: one of the kinds, else goods for the basket */
export function useEntryKinds() {
  const ringUp = useRingUpStore();
  const route = useRoute();
  const router = useRouter();

  async function takeAs(kinds: readonly EntryKind[], text: string): Promise<boolean> {
    for (const kind of kinds) if (kind.looks(text) && (await kind.take(text, router))) return true;
    return false;
  }

  /** @returns whether it was taken; else it may be typed on */
  return async (
    typed: string,
    { scanned = false, seen }: { scanned?: boolean; seen?: Item | undefined } = {},
  ): Promise<boolean> => {
    const text = typed.trim();
    if (!(await ringUp.inItsTime(text, { scanned }))) return true;
    if (await takeAs(OWN_FORM, text)) return true;
    // Where people are looked after, a card opens its customer; everywhere else it puts them on the sale.
    if (route.path.startsWith('/people') && (await takeAs([cardInPeople], text))) return true;
    return atCounter(router, () =>
      ringUp.enter(text, { scanned, seen, other: (code) => takeAs(ANY_CODE, code) }),
    );
  };
}
