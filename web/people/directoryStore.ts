import { defineStore } from 'pinia';
import { computed, reactive, ref } from 'vue';
import type { DirectoryPage } from '../../contract/people.ts';
import type { DirectorySort } from '../../core/people/directory.ts';
import { read } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

const ALL = {
  find: '',
  group: 0,
  tag: '',
  owes: '',
  credit: '',
  news: '',
  pointsFrom: '',
  pointsTo: '',
  born: 0,
  notSince: '',
} as const;

/** The list of customers, and what narrows it. */
export const useDirectoryStore = defineStore('directory', () => {
  const filter = reactive<{
    -readonly [Key in keyof typeof ALL]: (typeof ALL)[Key] extends number ? number : string;
  }>({ ...ALL });
  const sort = ref<DirectorySort>('name');
  const page = ref(0);
  const [listed, showListed] = shown<DirectoryPage | null>(null);

  /** What is asked for, as an address says it. */
  const query = computed(() => {
    const asked = Object.entries(filter).filter(([, value]) => value !== '' && value !== 0);
    return new URLSearchParams([...asked.map(([key, value]) => [key, String(value)]), ['sort', sort.value]]);
  });
  /** Whether anything narrows the list besides the words. */
  const narrowed = computed(() =>
    Object.entries(filter).some(([key, value]) => key !== 'find' && value !== '' && value !== 0),
  );

  async function load(): Promise<void> {
    const asked = read<DirectoryPage>(`/people/directory?${query.value.toString()}&page=${page.value}`);
    await showListed(asked);
  }

  const widen = () => void Object.assign(filter, ALL);

  const follow = (): (() => void) => lookAgain(['people-changed'], load);

  return { filter, sort, page, listed, query, narrowed, load, widen, follow };
});
