import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { JournalPage } from '../../contract/journal.ts';
import type { RefundQuote, Returnable, ReturnableLine, WithoutReceipt } from '../../contract/returns.ts';
import { putReturn, type BasketLine } from '../../core/counter/basket.ts';
import { RETURN_REASONS, type Condition } from '../../core/journal/returns.ts';
import { sum, type Money } from '../../core/money.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { problemWords } from '../net/problem.ts';
import { neededRights, withApproval } from '../../core/counter/neededRights.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';

/** Goods that come back, until they are in the basket. */
export const useReturnStore = defineStore('return', () => {
  const basket = useBasketStore();
  const work = useBasketWorkStore();
  const ringUp = useRingUpStore();
  const countersigns = useCountersignStore();
  const notices = useNoticeStore();
  const sale = shallowRef<Returnable | null>(null);
  /** How much of which line comes back. */
  const chosen = ref<Record<number, Quantity>>({});
  /** Serial numbers as they were read off the goods. */
  const serials = ref<Record<number, string>>({});
  const reason = ref<string>(RETURN_REASONS[0]);
  const condition = ref<Condition>('to-stock');
  const way = ref<'share' | 're-price'>('share');
  const quote = shallowRef<RefundQuote | null>(null);
  let turn = 0;
  let asking: Promise<void> = Promise.resolve();

  const lines = computed(() => sale.value?.lines ?? []);
  const parts = computed(() =>
    Object.entries(chosen.value)
      .map(([position, quantity]) => ({ position: Number(position), quantity }))
      .filter(({ quantity }) => quantity > 0),
  );

  /** What a way of refunding comes to, tax included. */
  function worth(figures: RefundQuote['chosen'] | null): Money {
    const onTop = basket.priced?.taxMode !== 'inside';
    return (
      0 -
      sum(
        (figures ?? []).map(
          ({ figures: { net, taxes } }) => net + (onTop ? sum(taxes.map(({ tax }) => tax)) : 0),
        ),
      )
    );
  }
  const figures = computed(() =>
    quote.value
      ? ((way.value === quote.value.way ? quote.value.chosen : quote.value.other) ?? quote.value.chosen)
      : null,
  );

  const lastLooked = lastAnswer();
  const returnable = (saleId: string) => read<Returnable>(`/journal/sales/${saleId}/returnable`);
  /** What was looked for last is opened; nothing opens where the cashier went on to something else meanwhile. */
  async function openFound(looking: Promise<Returnable>): Promise<boolean> {
    const before = work.work;
    try {
      const found = await lastLooked(looking);
      if (!found || work.work !== before) return false;
      if (found.voided) {
        notices.failed(`${found.receipt} was voided: nothing comes back from it.`);
        return false;
      }
      if (found.lines.every(({ left }) => left === 0)) {
        notices.failed(`Everything of ${found.receipt} came back already.`);
        return false;
      }
      sale.value = found;
      begin();
      return work.work === 'return';
    } catch (error) {
      notices.failed(problemWords(error));
      return false;
    }
  }

  /** Opens a sale whose goods come back. @returns whether there is anything that can */
  const open = (saleId: string): Promise<boolean> => openFound(returnable(saleId));

  /** Opens the panel without a sale: to find one, or to take goods back without a receipt. */
  function openEmpty(): void {
    void lastLooked(Promise.resolve());
    sale.value = null;
    begin();
  }

  function begin(): void {
    const saleId = sale.value?.saleId;
    const before = basket.lines.filter(
      ({ comesBack }) => comesBack?.sale && comesBack.sale.saleId === saleId,
    );
    chosen.value = Object.fromEntries(
      before.map(({ quantity, comesBack }) => [comesBack?.sale?.position ?? 0, 0 - quantity]),
    );
    serials.value = Object.fromEntries(
      before.map(({ serial = '', comesBack }) => [comesBack?.sale?.position ?? 0, serial]),
    );
    reason.value = before[0]?.comesBack?.reason ?? RETURN_REASONS[0];
    condition.value = before[0]?.comesBack?.condition ?? 'to-stock';
    way.value = before[0]?.comesBack?.sale?.way ?? 'share';
    quote.value = null;
    const open = lines.value.filter(({ left }) => left > 0);
    const [only] = open;
    if (only && open.length === 1 && before.length === 0) take(only, ONE);
    else asking = ask();
    work.begin('return');
  }

  /** Sets how much of a line comes back; zero takes it out. What cannot be parted comes back whole. */
  function take(line: ReturnableLine, quantity: Quantity): void {
    const wanted = line.whole && quantity > 0 ? line.left : Math.max(0, Math.min(line.left, quantity));
    chosen.value = { ...chosen.value, [line.position]: wanted };
    asking = ask();
  }

  async function ask(): Promise<void> {
    const mine = ++turn;
    if (!sale.value || parts.value.length === 0) {
      quote.value = null;
      return;
    }
    try {
      const found = await write<RefundQuote>('POST', `/journal/sales/${sale.value.saleId}/quotes`, {
        parts: parts.value,
      });
      if (mine !== turn) return;
      quote.value = found;
      if (!found.other) way.value = found.way;
    } catch (error) {
      if (mine !== turn) return;
      quote.value = null;
      notices.failed(problemWords(error));
    }
  }

  /** What the goods are worth that are chosen now: what came before is of others, or of other quantities. */
  async function quoted(): Promise<RefundQuote | null> {
    for (let last; last !== asking;) {
      last = asking;
      await last;
    }
    return quote.value;
  }

  /** What keeps the chosen goods from coming back, in words; nothing when nothing does. */
  function wrong(): string {
    if (parts.value.length === 0) return 'Choose what comes back.';
    if (!reason.value.trim()) return 'Say why it comes back.';
    const unread = lines.value.find(
      ({ position, serial }) =>
        serial !== null &&
        (chosen.value[position] ?? 0) > 0 &&
        serials.value[position]?.trim().toUpperCase() !== serial.toUpperCase(),
    );
    return unread ? `Read the serial number of ${unread.name}: it was sold as ${unread.serial ?? ''}.` : '';
  }

  /** Puts the chosen goods into the basket. @returns whether they are there */
  async function put(): Promise<boolean> {
    await quoted();
    return figures.value !== null && (await bring(figures.value, way.value)) !== null;
  }

  /** @returns the lines that come back, once they are in the basket */
  async function bring(
    worth: RefundQuote['chosen'],
    by: RefundQuote['way'],
  ): Promise<readonly BasketLine[] | null> {
    const from = sale.value;
    if (!from || wrong()) return null;
    const back = worth.flatMap(({ position, figures: worked }): BasketLine[] => {
      const line = lines.value.find((one) => one.position === position);
      if (!line) return [];
      const { itemId, number, name, unit, decimals, taxCategoryId, unitPrice, serial } = line;
      return [
        {
          id: newId(),
          itemId,
          number,
          name,
          unit,
          decimals,
          taxCategoryId,
          quantity: 0 - (chosen.value[position] ?? 0),
          listPrice: unitPrice,
          ...(serial === null ? {} : { serial }),
          comesBack: {
            reason: reason.value.trim(),
            condition: condition.value,
            sale: {
              saleId: from.saleId,
              receipt: from.receipt,
              position,
              way: by,
              figures: worked,
              late: from.late,
            },
          },
        },
      ];
    });
    const late = neededRights({ ...basket.basket, lines: back }, new Set(), 0).filter(
      ({ right }) => right === 'return.late',
    );
    const steps = late.map(({ step }) => step);
    const [one] = late;
    const approval = one
      ? await countersigns.need(one.right, basket.basket.id, `${from.receipt}, ${reason.value}`, steps)
      : { id: undefined };
    if (!approval) return null;
    const brought = putReturn(basket.basket, from.saleId, back);
    const withLines = one && approval.id ? withApproval(brought, one, approval.id) : brought;
    const customer = withLines.customer ?? from.customer ?? undefined;
    work.leave();
    await basket.change({ ...withLines, ...(customer && { customer }) }, back.at(-1)?.id);
    return back;
  }

  /** Takes goods back and asks which of their family is taken instead, for what was paid. */
  async function swap(): Promise<void> {
    const worked = await quoted();
    const back = worked && (await bring(worked.swap, 'share'));
    for (const line of back ?? []) {
      const [item] = await catalogue.find([line.itemId]);
      const familyId = item?.more?.familyId;
      const [family] = familyId === undefined ? [] : await catalogue.find([familyId]);
      const instead = family ?? item;
      if (instead) await ringUp.add(instead, 0 - line.quantity, line.id);
    }
  }

  /** Opens a sale by its receipt number. */
  const find = (text: string): Promise<boolean> => openFound(soldUnder(text.trim()));

  async function soldUnder(text: string): Promise<Returnable> {
    const { rows } = await read<JournalPage>(`/journal/sales?find=${encodeURIComponent(text)}`);
    const [row] = rows;
    if (!row) throw new Error(`Nothing was sold under “${text}”.`);
    return returnable(row.id);
  }

  /** What a customer bought lately, for who comes without a receipt. */
  const boughtBy = async (customerId: number): Promise<JournalPage['rows']> =>
    (await read<JournalPage>(`/journal/sales?customerId=${customerId}`)).rows.filter(({ voided }) => !voided);

  const withoutReceipt = (customerId: number): Promise<WithoutReceipt> =>
    read<WithoutReceipt>(`/journal/without-receipt/${customerId}`);

  /**
   * Takes goods back without their receipt: at the lowest recent price, approved. @param text what was scanned or
   * typed
   */
  async function takeWithoutReceipt(text: string): Promise<void> {
    ringUp.returning = { reason: reason.value.trim() || 'Without receipt', condition: condition.value };
    work.leave();
    await ringUp.enter(`-1*${text.trim()}`);
  }

  return {
    sale,
    lines,
    chosen,
    serials,
    reason,
    condition,
    way,
    quote,
    figures,
    parts,
    open,
    openEmpty,
    take,
    worth,
    wrong,
    put,
    swap,
    find,
    boughtBy,
    withoutReceipt,
    takeWithoutReceipt,
  };
});
