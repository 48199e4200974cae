import { effectScope } from 'vue';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { hear, placesNow, useKeys } from './useKeys.ts';

/** What listens, as the page's own list of listeners. */
const heard = new Set<unknown>();
class Lines {
  rows = 2;
}
beforeEach(() => {
  vi.stubGlobal('HTMLTextAreaElement', Lines);
  vi.stubGlobal('document', {
    addEventListener: (_kind: string, one: unknown) => heard.add(one),
    removeEventListener: (_kind: string, one: unknown) => heard.delete(one),
  });
});
afterEach(() => vi.unstubAllGlobals());

function press(
  key: string,
  held: { altKey?: boolean; ctrlKey?: boolean; altGraph?: boolean; target?: object } = {},
) {
  const event = {
    key,
    altKey: false,
    ctrlKey: false,
    metaKey: false,
    defaultPrevented: false,
    ...held,
    getModifierState: () => held.altGraph ?? false,
    preventDefault() {
      this.defaultPrevented = true;
    },
  };
  hear(event as unknown as KeyboardEvent);
  return event.defaultPrevented;
}

/** Parts of a page, from the outside in; each can be left. */
function page(...parts: (() => void)[]) {
  const scopes = parts.map((part) => {
    const scope = effectScope();
    scope.run(part);
    return scope;
  });
  return { leave: (at: number) => scopes[at]?.stop(), end: () => scopes.forEach((scope) => scope.stop()) };
}

describe('a key', () => {
  it('that leads to another line stays in what is typed there', () => {
    const move = vi.fn();
    const { end } = page(() => useKeys('list', { move }));
    expect(press('ArrowDown', { target: new Lines() })).toBe(false);
    expect(move).not.toHaveBeenCalled();
    expect(press('ArrowDown', { target: {} })).toBe(true);
    expect(move).toHaveBeenCalledOnce();
    end();
  });

  it('goes to the innermost place that has a use for it, and outwards once that is left', () => {
    const next = vi.fn();
    const accept = vi.fn();
    const { leave, end } = page(
      () => useKeys('counter', { next }),
      () => useKeys('form', { accept }),
    );
    expect(placesNow()).toEqual(['form', 'counter']);
    expect(press('F9')).toBe(true);
    expect([accept.mock.calls.length, next.mock.calls.length]).toEqual([1, 0]);
    leave(1);
    press('F9');
    expect([accept.mock.calls.length, next.mock.calls.length]).toEqual([1, 1]);
    end();
    expect(heard.size).toBe(0);
    expect(press('F9')).toBe(false);
  });

  it('that is not meant goes on, and stays what it is where nobody wants it', () => {
    const back = vi.fn();
    const { end } = page(
      () => useKeys('counter', { back }),
      () => useKeys('terminal', { callOff: () => false }),
      () => useKeys('countersign', { leave: vi.fn() }, { when: () => false }),
    );
    expect(press('Escape')).toBe(true);
    expect(back).toHaveBeenCalledOnce();
    expect(press('x')).toBe(false);
    end();
  });

  it('says which of several it was, with Alt where Alt is meant, and is another one with Ctrl', () => {
    const choose = vi.fn();
    const split = vi.fn();
    const { end } = page(() => useKeys('paying', { choose, split }));
    press('3', { altKey: true });
    press('2');
    expect(choose.mock.calls.map(([, nth]: unknown[]) => nth)).toEqual([2, 10]);
    expect(press('3', { ctrlKey: true })).toBe(false);
    // On some keyboards ÷ is typed with AltGr, which holds Ctrl and Alt.
    press('÷', { altKey: true, ctrlKey: true, altGraph: true });
    expect(split).toHaveBeenCalledOnce();
    end();
  });
});
