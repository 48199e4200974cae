import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { StoredShelves } from '../../contract/shelves.ts';
import { itemsOnShelves, tilesAt, withTiles, type Shelf, type Tile } from '../../core/counter/shelves.ts';
import type { Item } from '../../core/goods/item.ts';
import { sayOnceAway } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write } from '../net/api.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { untilAnswered } from '../net/untilAnswered.ts';
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
  /** Whether what lies on the tiles is being looked up. */
  const finding = ref(false);
  let revision = -1;

  const shelves = computed(() =>
    all.value.filter(({ tillId }) => tillId === null || tillId === till.facts?.till.id),
  );
  const shelf = computed(() => shelves.value.find(({ id }) => id === shelfId.value) ?? shelves.value[0]);
  const place = computed(() => ({ shelfId: shelf.value?.id ?? '', binId: binId.value }));
  const tiles = computed(() => tilesAt(shelves.value, place.value));
  const bin = computed(() => shelf.value?.tiles.find(({ id }) => id === binId.value));

  /** At once: the next change begins with it. */
  async function show(next: Shelf[]): Promise<void> {
    all.value = next;
    if (!bin.value) binId.value = null;
    finding.value = true;
    const found = await catalogue.find(itemsOnShelves(next));
    if (all.value !== next) return;
    items.value = new Map(found.map((item) => [item.id, item]));
    finding.value = false;
  }

  async function showStored(stored: StoredShelves): Promise<void> {
    revision = stored.revision;
    await show(stored.shelves);
  }

  async function load(): Promise<void> {
    const stored = await read<StoredShelves>('/counter/shelves');
    // What somebody changes here meanwhile is stored, or refused with what others have made of it.
    if (!storing) await showStored(stored);
  }

  /** What is on its way to the server, and what was changed after it. */
  let storing: Promise<void> | null = null;
  let unstored: Shelf[] | null = null;

  /**
   * Shows the change at once and stores it, after the one before and once the server can be reached: a hand is faster.
   * Where somebody else was faster, theirs is shown and said.
   */
  async function change(next: Shelf[]): Promise<void> {
    unstored = next;
    storing ??= store().finally(() => (storing = null));
    await show(next);
    await storing;
  }

  async function store(): Promise<void> {
    while (unstored) {
      const asked = { shelves: unstored, revision };
      const key = newKey();
      unstored = null;
      try {
        const put = () => write<{ revision: number }>('PUT', '/counter/shelves', asked, key);
        const saved = await untilAnswered(put, sayOnceAway());
        revision = saved?.revision ?? revision;
      } catch (error) {
        unstored = null;
        notices.failed(problemWords(error));
        const theirs = error instanceof ApiProblem ? error.data('shelves-changed') : undefined;
        const stored = theirs ?? (await read<StoredShelves>('/counter/shelves').catch(() => null));
        if (stored) await showStored(stored);
      }
    }
  }

  const changeTiles = (next: Tile[]) => change(withTiles(all.value, place.value, next));

  function open(id: string): void {
    shelfId.value = id;
    binId.value = null;
  }

  function follow(): () => void {
    /** The newest that there is, as was told; after a lost line it may be any. */
    let told = Infinity;
    return lookAgain(
      (event) => {
        if (event.kind !== 'shelves-changed') return false;
        told = event.revision;
        return told > revision;
      },
      async () => {
        await storing;
        if (told <= revision) return;
        told = Infinity;
        await load();
      },
    );
  }

  return { all, shelves, shelf, tiles, bin, binId, items, finding, load, change, changeTiles, open, follow };
});
