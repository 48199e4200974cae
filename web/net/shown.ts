import { shallowRef, type ShallowRef } from 'vue';
import { lastAnswer } from './lastAnswer.ts';

/** What is shown, what asks for it, and what puts something there without asking. */
type Shown<T> = readonly [
  Readonly<ShallowRef<T>>,
  /** @returns the answer, or nothing where something else was asked, or put there, meanwhile */
  show: <Answer extends T>(question: Promise<Answer>) => Promise<Answer | undefined>,
  put: (value: T) => void,
];

/**
 * Something that is asked for and shown. Whatever is answered first, what came last counts: a look, a change that is
 * answered with how it stands after it, or what was put there. So it is not set in any other way.
 */
export function shown<T>(first: T): Shown<T> {
  const value = shallowRef(first) as ShallowRef<T>;
  const last = lastAnswer();
  return [
    value,
    async (question) => {
      const answer = await last(question);
      if (answer !== undefined) value.value = answer;
      return answer;
    },
    (now) => {
      // What is still asked for is about something else.
      void last(Promise.resolve());
      value.value = now;
    },
  ];
}
