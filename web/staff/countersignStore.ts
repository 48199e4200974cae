import { defineStore } from 'pinia';
import { v4 as newKey } from 'uuid';
import { shallowRef } from 'vue';
import type { Countersign, WantedApproval } from '../../contract/staff.ts';
import { coversOf, type Step } from '../../core/staff/approval.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import { write } from '../net/api.ts';
import { ApiProblem } from '../net/problem.ts';
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

  /**
   * Does what may need an approval as soon as the server knows its figures: it is asked for, and then it is done
   * again with it.
   * @param about what it is for, in words. @returns `null` when nobody approved
   */
  async function approved<T>(
    about: string,
    work: (approval: WantedApproval | null) => Promise<T>,
  ): Promise<{ answer: T } | null> {
    try {
      return { answer: await work(null) };
    } catch (error) {
      const needed = error instanceof ApiProblem ? error.data('countersign-needed')?.needed : undefined;
      if (!needed) throw error;
      const approval = await need(needed.right, needed.about, about, needed.steps);
      if (!approval?.id) return null;
      return { answer: await work({ about: needed.about, countersign: approval.id }) };
    }
  }

  function leave(): void {
    asking.value?.answer(null);
    asking.value = null;
  }

  return { asking, need, approve, approved, leave };
});
