import { createPinia, setActivePinia } from 'pinia';
import { createSSRApp } from 'vue';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Unreachable } from '../net/problem.ts';
import { useNoticeStore } from './noticeStore.ts';
import { sayRefusals } from './refusals.ts';

const app = createSSRApp({});
const page = new EventTarget();
sayRefusals(app, page);
beforeEach(() => setActivePinia(createPinia()));

describe('what nobody else has said', () => {
  it('is said where the server does not answer a press', () => {
    app.config.errorHandler?.(new Unreachable(false), null, 'native event handler');
    expect(useNoticeStore().notice?.text).toBe('The server does not answer.');
  });

  it('is said where it does not answer a key, and nothing else that was not waited for is', () => {
    const unheard = (reason: unknown) =>
      page.dispatchEvent(Object.assign(new Event('unhandledrejection', { cancelable: true }), { reason }));
    expect(unheard(new TypeError('Unable to preload'))).toBe(true);
    expect(useNoticeStore().notice).toBeNull();
    expect(unheard(new Unreachable(false))).toBe(false);
    expect(useNoticeStore().notice?.text).toBe('The server does not answer.');
  });

  it('is said, and reported to whoever looks after the program, where that has made a mistake', () => {
    const reported = vi.fn();
    vi.stubGlobal('reportError', reported);
    const mistake = new TypeError('x is not a function');
    app.config.errorHandler?.(mistake, null, 'native event handler');
    expect(useNoticeStore().notice?.text).toBe('The program has made a mistake here. Load the page again.');
    expect(reported).toHaveBeenCalledWith(mistake);
    vi.unstubAllGlobals();
  });
});
