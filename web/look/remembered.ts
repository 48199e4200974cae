import { effectScope, onScopeDispose, shallowRef, watch, type ShallowRef } from 'vue';
import { forgetTyped, keepTyped, placeOf, recallTyped, type TypedBefore } from '../net/typedBefore.ts';
import { presses, watchForm } from '../net/unsaved.ts';

/** A form whose typing outlives the page. */
export interface Remembered {
  /** What was typed here before, not kept, and neither put back nor let go yet. */
  before: Readonly<ShallowRef<TypedBefore | null>>;
  putBack(): void;
  letGo(): void;
  /** Its person leaves it on purpose. */
  left(): void;
  /** What stands there is kept. */
  kept(): void;
  /** Sends it: it is kept as soon as the server has taken something, and as it stands once all is done. */
  send(work: () => unknown): Promise<void>;
}

const textOf = (value: unknown): string => JSON.stringify(value) ?? 'null';
const textsOf = (fields: [string, unknown][]): Map<string, string> =>
  new Map(fields.map(([field, value]) => [field, textOf(value)]));

/**
 * Remembers what is typed and chosen in a form, until it is kept: when the form is opened again by the same person
 * on the same device, that is offered.
 * @param name what form of what it is: `supplier 5`
 * @param form its fields, as they are bound: in one object, or in several that have no name in common
 * @param secret fields that are never written down
 */
export function useRemembered(
  name: string,
  title: () => string,
  form: object | readonly object[],
  secret: readonly string[] = [],
): Remembered {
  const place = placeOf(name);
  const parts: readonly object[] = Array.isArray(form) ? form : [form];
  const fields = (): [string, unknown][] => parts.flatMap((part) => Object.entries(part));
  let begunWith = textsOf(fields());
  const recalled = recallTyped(place);
  const isThere = Object.entries(recalled?.parts ?? {}).every(
    ([field, value]) => textOf(value) === begunWith.get(field),
  );
  const before = shallowRef((isThere ? recalled?.before : recalled) ?? null);
  let untouched = presses();
  /** What stood there when it was left on purpose: that is not asked about, nor told. */
  let settled = '';
  let [sending, taken] = [false, false];

  const changes = (): [string, unknown][] =>
    fields().filter(([field, value]) => textOf(value) !== begunWith.get(field));
  const changesInWords = (): string => textOf(changes());

  function note(): void {
    const typed = Object.fromEntries(changes().filter(([field]) => !secret.includes(field)));
    if (Object.keys(typed).length > 0)
      keepTyped(place, {
        title: title(),
        at: new Date().toISOString(),
        parts: typed,
        left: changesInWords() === settled,
        ...(before.value && { before: before.value }),
      });
    else if (before.value) keepTyped(place, before.value);
    else forgetTyped(place);
  }
  watch(changesInWords, () => {
    // Nobody has touched anything yet: it is being filled in.
    if (presses() === untouched) begunWith = textsOf(fields());
    else note();
  });
  function left(): void {
    settled = changesInWords();
    note();
  }
  function kept(): void {
    begunWith = textsOf(fields());
    note();
  }
  onScopeDispose(
    watchForm({
      title,
      changed: () => changes().length > 0 && changesInWords() !== settled,
      letGo: left,
      took() {
        if (!sending) return;
        taken = true;
        kept();
      },
      parts,
      beginsWith: (now) => {
        textsOf(Object.entries(now)).forEach((text, field) => begunWith.set(field, text));
        note();
      },
    }),
  );

  return {
    before,
    putBack() {
      const typed = Object.entries(before.value?.parts ?? {});
      before.value = before.value?.before ?? null;
      untouched = -1;
      for (const part of parts)
        Object.assign(part, Object.fromEntries(typed.filter(([field]) => field in part)));
    },
    letGo() {
      before.value = before.value?.before ?? null;
      note();
    },
    left,
    kept,
    async send(work) {
      [sending, taken] = [true, false];
      try {
        await work();
      } finally {
        sending = false;
        // A form for the next one is blank again.
        if (taken) kept();
      }
    },
  };
}

/** What a page remembers that shows one thing after the other: begun anew with each. */
export function useRememberedInTurn(): {
  remembered: Readonly<ShallowRef<Remembered | null>>;
  begin: (...form: Parameters<typeof useRemembered>) => void;
  /** Nothing is being typed any more. */
  end: () => void;
} {
  const remembered = shallowRef<Remembered | null>(null);
  let scope = effectScope();
  function end(): void {
    scope.stop();
    remembered.value = null;
  }
  let left = false;
  onScopeDispose(() => {
    left = true;
    end();
  });
  return {
    remembered,
    end,
    begin(...form) {
      end();
      // What the page still waited for came after it was left.
      if (left) return;
      scope = effectScope(true);
      remembered.value = scope.run(() => useRemembered(...form)) ?? null;
    },
  };
}
