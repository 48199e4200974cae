import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { StoredShelves } from '../../contract/shelves.ts';
import { itemsOnShelves, tilesAt, withTiles, type Shelf, type Tile } from '../../core/counter/shelves.ts';
import type { Item } from '../../core/goods/item.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write } from '../net/api.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';

/** The touch pages of this till. They are stored on the server with every change and are live on all tills. */
export const useShelfStore = defineStore('shelf', () => {
  const notices = useNoticeStore();
  const till = useTillStore();
  const all = shallowRef<Shelf[]>([]);
  const items = shallowRef(new Map<number, Item>());
  const shelfId = ref('');
  const binId = ref<string | null>(null);
  let revision = -1;

  const shelves = computed(() =>
    all.value.filter(({ tillId }) => tillId === null || tillId === till.facts?.till.id),
  );
  const shelf = computed(() => shelves.value.find(({ id }) => id === shelfId.value) ?? shelves.value[0]);
  const place = computed(() => ({ shelfId: shelf.value?.id ?? '', binId: binId.value }));
  const tiles = computed(() => tilesAt(shelves.value, place.value));
  const bin = computed(() => shelf.value?.tiles.find(({ id }) => id === binId.value));

  async function show(stored: StoredShelves): Promise<void> {
    revision = stored.revision;
    const found = await catalogue.find(itemsOnShelves(stored.shelves));
    items.value = new Map(found.map((item) => [item.id, item]));
    all.value = stored.shelves;
    if (!bin.value) binId.value = null;
  }

  async function load(): Promise<void> {
    await show(await read<StoredShelves>('/counter/shelves'));
  }

  /** Shows the change at once and stores it; where somebody else was faster, theirs is shown and said. */
  async function change(next: Shelf[]): Promise<void> {
    const seen = revision;
    await show({ shelves: next, revision: seen });
    try {
      const saved = await write<{ revision: number }>('PUT', '/counter/shelves', {
        shelves: next,
        revision: seen,
      });
      revision = saved.revision;
    } catch (error) {
      notices.failed(problemWords(error));
      const theirs = error instanceof ApiProblem ? error.data('shelves-changed') : undefined;
      if (theirs) {
        await show(theirs);
      } else {
        await load().catch(() => {});
      }
    }
  }

  const changeTiles = (next: Tile[]) => change(withTiles(all.value, place.value, next));

  function open(id: string): void {
    shelfId.value = id;
    binId.value = null;
  }

  function follow(): () => void {
    return lookAgain(
      (event) =>
        event.kind === 'connected' || (event.kind === 'shelves-changed' && event.revision > revision),
      load,
    );
  }

  return { all, shelves, shelf, tiles, bin, binId, items, load, change, changeTiles, open, follow };
});
