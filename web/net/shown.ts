import { shallowRef, type ShallowRef } from 'vue';
import { lastAnswer } from './lastAnswer.ts';

/**
 * Something that is asked for and shown. Whatever is answered first, the last question counts, be it a look or a change that is
 * answered with how it stands after it.
 * @returns what is shown, and what asks for it: the answer, or nothing where something else was asked meanwhile
 */
export function shown<T>(
  first: T,
): [ShallowRef<T>, <Answer extends T>(question: Promise<Answer>) => Promise<Answer | undefined>] {
  const value = shallowRef(first) as ShallowRef<T>;
  const last = lastAnswer();
  return [
    value,
    async (question) => {
      const answer = await last(question);
      if (answer !== undefined) value.value = answer;
      return answer;
    },
  ];
}
