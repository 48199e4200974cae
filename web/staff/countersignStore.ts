import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { shallowRef } from 'vue';
import type { Countersign } from '../../contract/staff.ts';
import { coversOf, type Step } from '../../core/staff/approval.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import { write } from '../net/api.ts';
import { useSessionStore } from './sessionStore.ts';

interface Asking {
  right: Right;
  basketId: string;
  /** What it is for, e.g. the item. */
  about: string;
  /** Exactly what is to be approved. */
  steps: readonly Step[];
  answer(approval: { id: string | undefined } | null): void;
}

/** Steps that need a second person, approved in place while basket and focus stay. */
export const useCountersignStore = defineStore('countersign', () => {
  const session = useSessionStore();
  const asking = shallowRef<Asking | null>(null);

  /**
   * Asks for a right. Whoever has it goes on at once; else a second person types a PIN.
   * @returns the approval's id, `undefined` where none is needed, or `null` when nobody approved
   */
  function need(
    right: Right,
    basketId: string,
    about: string,
    steps: readonly Step[],
  ): Promise<{ id: string | undefined } | null> {
    if (session.may(right)) return Promise.resolve({ id: undefined });
    // One at a time: the step that asked before is left.
    leave();
    return new Promise((resolve) => {
      asking.value = { right, basketId, about, steps, answer: resolve };
    });
  }

  async function approve(pin: string): Promise<Countersign | null> {
    const asked = asking.value;
    if (!asked) return null;
    const { right, basketId, about, steps } = asked;
    const reason = `${RIGHTS[right]}: ${about}`.slice(0, 200);
    const given = await write<Countersign>(
      'POST',
      '/staff/countersigns',
      { pin, right, basketId, reason, covers: coversOf(steps) },
      newKey(),
    );
    asking.value = null;
    asked.answer({ id: given.id });
    return given;
  }

  function leave(): void {
    asking.value?.answer(null);
    asking.value = null;
  }

  return { asking, need, approve, leave };
});
