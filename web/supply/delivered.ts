import { computed, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue';
import type { OrderableItem, OrderPage } from '../../contract/supply.ts';
import { ONE } from '../../core/quantity.ts';
import { stillToCome } from '../../core/supply/purchaseOrder.ts';

/** A line as it came. */
export interface Came extends Omit<OrderableItem, 'available'> {
  ordered: number;
  /** Still to come of the order. */
  open: number;
  quantity: number | null;
  damaged: number | null;
  found: string[];
}

/** What was typed or scanned of a line. */
type Typed = Partial<Pick<Came, 'quantity' | 'damaged' | 'found' | 'unitCost'>>;

export interface Delivered {
  lines: ComputedRef<Came[]>;
  /** Whether each scan is one more, instead of everything that was ordered being filled in. */
  byScan: Ref<boolean>;
  /** What was typed or scanned, by item. */
  typed: Ref<Record<number, Typed>>;
  /** What came and nobody ordered. */
  unordered: ShallowRef<OrderableItem[]>;
  put(itemId: number, part: Typed): void;
  /** Counting by scan begins with nothing; what was typed stands no more. */
  countByScan(): void;
  addSerial(itemId: number, serial: string): void;
  add(item: OrderableItem): void;
}

/** What came of an order as it is being noted: the order as it is now, and over it what was typed and scanned. */
export function useDelivered(order: () => Pick<OrderPage, 'lines'>): Delivered {
  const byScan = ref(false);
  const typed = ref<Record<number, Typed>>({});
  const unordered = shallowRef<OrderableItem[]>([]);

  const lines = computed<Came[]>(() => {
    const ordered = order().lines.map((line) => ({
      ...line,
      ordered: line.quantity,
      open: stillToCome(line),
    }));
    const others = unordered.value
      .filter(({ itemId }) => !ordered.some((line) => line.itemId === itemId))
      .map((item) => ({ ...item, ordered: 0, open: 0 }));
    return [...ordered, ...others].map((line) => ({
      ...line,
      quantity: byScan.value || line.serials ? 0 : line.open,
      damaged: null,
      found: [],
      ...typed.value[line.itemId],
    }));
  });
  const put = (itemId: number, part: Typed): void => {
    typed.value = { ...typed.value, [itemId]: { ...typed.value[itemId], ...part } };
  };

  return {
    lines,
    byScan,
    typed,
    unordered,
    put,
    countByScan() {
      byScan.value = true;
      typed.value = Object.fromEntries(
        Object.entries(typed.value).map(([itemId, { quantity: _, found: __, ...rest }]) => [itemId, rest]),
      );
    },
    addSerial(itemId, serial) {
      const found = lines.value.find((line) => line.itemId === itemId)?.found ?? [];
      if (found.includes(serial)) return;
      put(itemId, { found: [...found, serial], quantity: (found.length + 1) * ONE });
    },
    add(item) {
      unordered.value = [...unordered.value, item];
      put(item.itemId, { quantity: item.serials ? 0 : ONE });
    },
  };
}
