import { onScopeDispose } from 'vue';
import { problemWords, Unreachable } from '../net/problem.ts';
import { untilAnswered } from '../net/untilAnswered.ts';
import { useNoticeStore } from './noticeStore.ts';

/** Hears why something cannot be had: says once that the server is away, and leaves what it refuses to others. */
export function sayOnceAway(): (error: unknown) => void {
  const notices = useNoticeStore();
  let said = false;
  return (error) => {
    if (!(error instanceof Unreachable)) throw error;
    if (!said) notices.failed(problemWords(error));
    said = true;
  };
}

/**
 * How a page looks up what it shows: until the server answers, or the page is left, or looks for something else.
 * @param refused what is done when the server does not give it; it is said, if nothing else is done
 * @returns what looks, and says whether that came to an end: it did not where something else is looked for by then
 */
export function useLook<About extends unknown[]>(
  look: (...about: About) => Promise<unknown>,
  refused?: (error: unknown) => unknown,
): (...about: About) => Promise<boolean> {
  const notices = useNoticeStore();
  let turn = 0;
  onScopeDispose(() => (turn += 1));
  return async (...about) => {
    const mine = ++turn;
    let ended = false;
    try {
      await untilAnswered(
        async () => {
          await look(...about);
          ended = true;
        },
        sayOnceAway(),
        () => mine === turn,
      );
    } catch (error) {
      ended = true;
      if (refused) await refused(error);
      else notices.failed(problemWords(error));
    }
    return ended;
  };
}
