import { computed, onMounted, reactive } from 'vue';
import type { WantedItem } from '../../contract/goods.ts';
import { NEW_ITEM } from '../../core/goods/itemRecord.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useGoodsListStore } from './goodsListStore.ts';

/** An item that is made: as nothing is known of it, and the words that it may be given. */
export function useNewItem(known: Partial<WantedItem> = {}) {
  const list = useGoodsListStore();
  const till = useTillStore();

  /** @param kept what is known of it from the start */
  const fresh = (kept: Partial<WantedItem>): WantedItem => ({
    ...structuredClone(NEW_ITEM),
    groupPrices: [],
    tags: [],
    codes: [],
    taxCategoryId: till.facts?.taxCategories[0]?.id ?? 0,
    ...kept,
  });
  const item = reactive(fresh(known));
  const categories = computed(() => (list.listed?.categories ?? []).map(({ name }) => name));
  const tags = computed(() => list.listed?.tags ?? []);
  onMounted(useLook(list.load));

  return { item, fresh, categories, tags };
}
