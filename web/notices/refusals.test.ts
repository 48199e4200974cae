import { createPinia, setActivePinia } from 'pinia';
import { createSSRApp } from 'vue';
import { describe, expect, it, vi } from 'vitest';
import { Unreachable } from '../net/problem.ts';
import { useNoticeStore } from './noticeStore.ts';
import { sayRefusals } from './refusals.ts';

/** What is said of an error that nobody has caught. */
function saidOf(error: unknown): string | undefined {
  const pinia = createPinia();
  setActivePinia(pinia);
  const app = createSSRApp({});
  sayRefusals(app);
  app.config.errorHandler?.(error, null, 'native event handler');
  return useNoticeStore().notice?.text;
}

describe('what nobody else has said', () => {
  it('is said where the server does not answer', () => {
    expect(saidOf(new Unreachable(false))).toBe('The server does not answer.');
  });

  it('is said, and reported to whoever looks after the program, where that has made a mistake', () => {
    const reported = vi.fn();
    vi.stubGlobal('reportError', reported);
    const mistake = new TypeError('x is not a function');
    expect(saidOf(mistake)).toBe('The program has made a mistake here. Load the page again.');
    expect(reported).toHaveBeenCalledWith(mistake);
    vi.unstubAllGlobals();
  });
});
