import { defineStore } from 'pinia';
import { computed, reactive, ref, shallowRef } from 'vue';
import type { GoodsPage, GoodsRow, ManyEffect, ManyItems, PickedItem } from '../../contract/goods.ts';
import type { GoodsSort } from '../../core/goods/itemList.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

const ALL = {
  find: '',
  category: 0,
  tax: 0,
  tag: '',
  supplier: 0,
  state: 'sold',
  noCode: '',
  noPrice: '',
  noCost: '',
  out: '',
  below: '',
} as const;

/** The list of goods, what narrows it, and what is picked of it to be changed at once. */
export const useGoodsListStore = defineStore('goodsList', () => {
  const filter = reactive<{
    -readonly [Key in keyof typeof ALL]: (typeof ALL)[Key] extends number ? number : string;
  }>({ ...ALL });
  const sort = ref<GoodsSort>('name');
  const page = ref(0);
  const [listed, showListed] = shown<GoodsPage | null>(null);
  /** Versions of the items that are picked, by their ids: as they were seen. */
  const picked = shallowRef<ReadonlyMap<number, number>>(new Map());

  /** What is asked for, as an address says it. */
  const query = computed(() => {
    const asked = Object.entries(filter).filter(
      ([key, value]) => key === 'state' || (value !== '' && value !== 0),
    );
    return new URLSearchParams([...asked.map(([key, value]) => [key, String(value)]), ['sort', sort.value]]);
  });
  /** Whether anything narrows the list besides the words. */
  const narrowed = computed(() =>
    Object.entries(filter).some(([key, value]) => key !== 'find' && value !== ALL[key as keyof typeof ALL]),
  );

  async function load(): Promise<void> {
    const asked = read<GoodsPage>(`/goods/list?${query.value.toString()}&page=${page.value}`);
    await showListed(asked);
  }

  const widen = () => void Object.assign(filter, ALL);

  function pick({ id, version }: GoodsRow): void {
    const next = new Map(picked.value);
    if (!next.delete(id)) next.set(id, version);
    picked.value = next;
  }
  /** Picks everything on the page, or, where all of it is picked, nothing of it. */
  function pickPage(): void {
    const rows = listed.value?.rows ?? [];
    const next = new Map(picked.value);
    const all = rows.every(({ id }) => next.has(id));
    for (const { id, version } of rows)
      if (all) next.delete(id);
      else next.set(id, version);
    picked.value = next;
  }
  /** Picks all that the list shows, on whatever page: as many as are changed at once. @throws ApiProblem */
  async function pickAll(): Promise<void> {
    const all = await read<PickedItem[]>(`/goods/list/versions?${query.value.toString()}`);
    picked.value = new Map(all.map(({ id, version }) => [id, version]));
  }
  const pickNone = () => (picked.value = new Map());

  const asked = (change: ManyItems['change']): ManyItems => ({
    items: [...picked.value].map(([id, version]) => ({ id, version })),
    change,
  });
  /** What a change would do to what is picked. @throws ApiProblem */
  const rehearse = (change: ManyItems['change']) =>
    write<ManyEffect[]>('POST', '/goods/changes/rehearsal', asked(change));
  /** Changes what is picked. @returns how many were changed @throws ApiProblem */
  async function changeMany(change: ManyItems['change']): Promise<number> {
    const { changed } = await write<{ changed: number }>('POST', '/goods/changes', asked(change));
    pickNone();
    await load();
    return changed;
  }

  const follow = (): (() => void) => lookAgain(['catalogue-changed', 'stock-changed'], load);

  return {
    filter,
    sort,
    page,
    listed,
    picked,
    query,
    narrowed,
    load,
    widen,
    pick,
    pickPage,
    pickAll,
    pickNone,
    rehearse,
    changeMany,
    follow,
  };
});
