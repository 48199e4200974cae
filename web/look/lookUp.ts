import { useDebounceFn } from '@vueuse/core';
import { computed, ref, watch, type Ref } from 'vue';
import { problemWords } from '../net/problem.ts';
import { shown } from '../net/shown.ts';

/**
 * Something that is looked for by what is typed: what was found, which of it is pointed at, whether the answer is still
 * on its way, and what is wrong.
 * @param typed what is typed
 * @param search asks for what fits some words
 * @param wait milliseconds that nobody types before it is asked
 */
export function useLookUp<T>(typed: Ref<string>, search: (words: string) => Promise<readonly T[]>, wait = 0) {
  const [found, showFound, putFound] = shown<readonly T[]>([]);
  /** What the last answer was about. */
  const answered = ref('');
  const at = ref(0);
  const wrong = ref('');

  async function ask(): Promise<void> {
    const words = typed.value;
    try {
      await showFound(words.trim() ? search(words) : Promise.resolve([]));
    } catch (error) {
      if (typed.value !== words) return;
      putFound([]);
      wrong.value = problemWords(error);
    }
    if (typed.value === words) answered.value = words;
  }
  const askLater = useDebounceFn(ask, wait);
  /** The search that is under way; Enter waits for it. */
  let searching: Promise<unknown> = Promise.resolve();
  watch(
    typed,
    (words) => {
      [at.value, wrong.value] = [0, ''];
      searching = wait > 0 && words.trim() ? askLater() : ask();
    },
    { flush: 'sync', immediate: true },
  );

  /**
   * What is pointed at, once it is what was found for what is typed: who was not in sight when Enter came is taken only
   * if nobody else is meant.
   */
  async function pointedAt(): Promise<T | undefined> {
    const [words, inSight] = [typed.value, found.value];
    await searching;
    if (typed.value !== words) return undefined;
    return found.value === inSight || found.value.length === 1 ? found.value[at.value] : undefined;
  }
  function move(by: 1 | -1): void {
    at.value = Math.min(found.value.length - 1, Math.max(0, at.value + by));
  }
  const looking = computed(() => typed.value.trim() !== '' && answered.value !== typed.value);
  const none = computed(
    () => typed.value.trim().length > 1 && !looking.value && found.value.length === 0 && wrong.value === '',
  );
  return { found, at, wrong, looking, none, pointedAt, move };
}
