import { defineStore } from 'pinia';
import { ref } from 'vue';
import { onePoint } from '../../core/words.ts';

export interface Notice {
  tone: 'say' | 'failed';
  text: string;
  /** Something to do about it, e.g. Undo. */
  action?: { word: string; do: () => void };
}

/** The one line that says what has just happened. It stays until the next thing happens or it is put away. */
export const useNoticeStore = defineStore('notice', () => {
  const notice = ref<Notice | null>(null);
  return {
    notice,
    say: (text: string, action?: Notice['action']) => {
      notice.value = { tone: 'say', text: onePoint(text), ...(action ? { action } : {}) };
    },
    failed: (text: string, action?: Notice['action']) => {
      notice.value = { tone: 'failed', text: onePoint(text), ...(action ? { action } : {}) };
    },
    clear: () => {
      notice.value = null;
    },
  };
});
