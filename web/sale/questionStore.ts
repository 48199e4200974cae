import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { Item } from '../../core/goods/item.ts';
import type { Money } from '../../core/money.ts';
import type { Quantity } from '../../core/quantity.ts';

/** What each kind of question is answered with. */
interface Answers {
  /** Which variant of a family. */
  variant: Item;
  /** The price of one, where an item has none. */
  price: Money;
  /** How much, where an item comes by length or weight. */
  quantity: Quantity;
  serial: string;
  /** That the customer is old enough. */
  age: true;
  note: string;
  /** What a code that nobody knows stands for; an item to ring up, or nothing more. */
  unknown: Item | 'done';
}

export type QuestionKind = keyof Answers;

export interface Question {
  kind: QuestionKind;
  /** What it is about; an unknown code is about none. */
  item: Item | null;
  /** The code, of one that nobody knows. */
  code: string;
  /** Which unit of how many it is about. */
  unit?: { at: number; of: number } | undefined;
}

/** What an item asks before it is rung up, one question after the other, in the right column. */
export const useQuestionStore = defineStore('question', () => {
  const asked = shallowRef<Question | null>(null);
  /** A serial number that was scanned while it is asked for. */
  const scanned = shallowRef<{ serial: string } | null>(null);
  let settle: ((answer: unknown) => void) | undefined;

  /** Asks. @returns the answer, or `null` when somebody left it */
  function ask<Kind extends QuestionKind>(
    kind: Kind,
    about: { item?: Item; code?: string; unit?: Question['unit'] },
  ): Promise<Answers[Kind] | null> {
    leave();
    scanned.value = null;
    asked.value = { kind, item: about.item ?? null, code: about.code ?? '', unit: about.unit };
    return new Promise((resolve) => {
      settle = resolve as (answer: unknown) => void;
    });
  }

  function answer<Kind extends QuestionKind>(kind: Kind, given: Answers[Kind]): void {
    if (asked.value?.kind === kind) end(given);
  }

  const leave = (): void => end(null);

  function end(given: unknown): void {
    const then = settle;
    settle = undefined;
    asked.value = null;
    then?.(given);
  }

  return { asked, scanned, ask, answer, leave };
});
