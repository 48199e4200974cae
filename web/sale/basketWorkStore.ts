import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { changeLine, type Basket, type BasketLine } from '../../core/counter/basket.ts';
import { neededRights, type NeededRight } from '../../core/counter/neededRights.ts';
import type { CashMoveKind } from '../../core/drawer/cashMove.ts';
import type { Money } from '../../core/money.ts';
import type { Step } from '../../core/staff/approval.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useBasketStore } from './basketStore.ts';

/** What the right column is asking for about the basket or its chosen line. */
export type Work =
  | 'price'
  | 'line-note'
  | 'sale-note'
  | 'exemption'
  | 'hold'
  | 'layaway'
  | 'order'
  | 'promise'
  | 'relay'
  | 'item'
  | 'customer'
  | 'drawer-opening'
  | 'cash'
  | 'discount'
  | 'points-off'
  | 'gift-card'
  | 'return';

/** What can be asked for without any goods in the basket. */
const WITHOUT_GOODS: readonly Work[] = [
  'customer',
  'drawer-opening',
  'cash',
  'gift-card',
  'return',
  'promise',
  'relay',
];

/** What is about one line: the one that is chosen when it begins. */
const OF_LINE: readonly Work[] = ['price', 'line-note', 'item'];

/** The steps of a basket that need a right. */
const stepsOf = (basket: Basket, right: NeededRight['right']): Step[] =>
  neededRights(basket, new Set(), 0)
    .filter((one) => one.right === right)
    .map(({ step }) => step);

/** Prices, notes and marks that somebody types; each is undone by typing it again or taking it away. */
export const useBasketWorkStore = defineStore('basketWork', () => {
  const basket = useBasketStore();
  const countersigns = useCountersignStore();
  const work = ref<Work | null>(null);
  /** The basket and the lines that it was begun for; no lines where it is about the whole of it. */
  const about = shallowRef<{ basketId: string; lineIds: readonly string[] }>({ basketId: '', lineIds: [] });

  /** The ready discount that a tile stands for. */
  const presetId = ref<number | null>(null);

  function beginDiscount(preset: number | null = null): void {
    presetId.value = preset;
    begin('discount');
  }

  function linesFor(what: Work): string[] {
    const { chosen, pickedLines } = basket;
    if (!chosen) return [];
    if (what === 'discount' && pickedLines.length > 0) return pickedLines.map(({ id }) => id);
    return what === 'discount' || OF_LINE.includes(what) ? [chosen.id] : [];
  }

  function begin(what: Work): void {
    if (
      (what === 'hold' || what === 'layaway' || what === 'order' || what === 'relay') &&
      basket.refusedInPractice()
    )
      return;
    if (basket.phase === 'done' && WITHOUT_GOODS.includes(what)) basket.nextSale();
    if (basket.phase !== 'basket' || (OF_LINE.includes(what) && !basket.chosen)) return;
    if (basket.lines.length === 0 && !WITHOUT_GOODS.includes(what)) return;
    about.value = { basketId: basket.basket.id, lineIds: linesFor(what) };
    work.value = what;
  }

  /** A panel is another one where it is about something else. */
  const panelKey = computed(() => JSON.stringify([work.value, about.value, presetId.value]));

  /** Which way cash is to move, when the panel opens. */
  const cashKind = ref<CashMoveKind>('out');

  function beginCash(kind: CashMoveKind): void {
    cashKind.value = kind;
    begin('cash');
  }

  const leave = (): void => {
    work.value = null;
  };

  /** Whether goods that are in the basket are what it is about. */
  function hasGoods(): boolean {
    const { basketId, lineIds } = about.value;
    return (
      basket.basket.id === basketId &&
      basket.lines.some(({ id }) => lineIds.length === 0 || lineIds.includes(id))
    );
  }
  // What is asked about goods ends with them, however they go.
  watch(
    () => work.value === null || WITHOUT_GOODS.includes(work.value) || hasGoods(),
    (stands) => {
      if (!stands) leave();
    },
    { flush: 'sync' },
  );

  const changed = (line: BasketLine, change: Parameters<typeof changeLine>[2]) =>
    basket.change(changeLine(basket.basket, line.id, change), line.id);

  /** Sells a line at another price. @returns false when nobody approved it */
  async function typePrice(line: BasketLine, unitPrice: Money, reason: string): Promise<boolean> {
    const typed = changeLine(basket.basket, line.id, { typedPrice: { unitPrice, reason } });
    const approval = await countersigns.need(
      'price.change',
      basket.basket.id,
      `${line.name}, ${reason}`,
      stepsOf({ ...typed, lines: typed.lines.filter(({ id }) => id === line.id) }, 'price.change'),
    );
    if (!approval) return false;
    await changed(line, { typedPrice: { unitPrice, reason, countersign: approval.id } });
    return true;
  }

  const backToListPrice = (line: BasketLine) => changed(line, { typedPrice: undefined });
  const noteLine = (line: BasketLine, note: string) => changed(line, { note: note.trim() || undefined });
  const markGift = (line: BasketLine) => changed(line, { gift: line.gift ? undefined : true });
  /** Marks all of some lines for the gift receipt; where all are marked already, takes the marks away. */
  function markGifts(lines: readonly BasketLine[]): Promise<void> {
    const gift = lines.every((line) => line.gift) ? undefined : true;
    return basket.change(lines.reduce((now, { id }) => changeLine(now, id, { gift }), basket.basket));
  }

  const noteSale = (note: string) => basket.change({ ...basket.basket, note: note.trim() || undefined });

  /** Sells without tax. @returns false when nobody approved it */
  async function exempt(reason: string, certificate: string): Promise<boolean> {
    const exempted = { ...basket.basket, exemption: { reason, certificate } };
    const approval = await countersigns.need(
      'tax.exempt',
      basket.basket.id,
      reason,
      stepsOf(exempted, 'tax.exempt'),
    );
    if (!approval) return false;
    await basket.change({ ...basket.basket, exemption: { reason, certificate, countersign: approval.id } });
    return true;
  }

  const tax = () => basket.change({ ...basket.basket, exemption: undefined });

  return {
    work,
    about,
    panelKey,
    presetId,
    begin,
    beginDiscount,
    cashKind,
    beginCash,
    leave,
    typePrice,
    backToListPrice,
    noteLine,
    markGift,
    markGifts,
    noteSale,
    exempt,
    tax,
  };
});
