import type { App } from 'vue';
import { ApiProblem, problemWords, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from './noticeStore.ts';

/**
 * Whatever a press asked for and the server refused, or did not answer, is said where nobody else says it, and so is
 * a mistake of the program: no button does nothing without a word.
 */
export function sayRefusals(app: App): void {
  app.config.errorHandler = (error) => {
    const refused = error instanceof ApiProblem || error instanceof Unreachable;
    useNoticeStore().failed(
      refused ? problemWords(error) : 'The program has made a mistake here. Load the page again.',
    );
    if (!refused) reportError(error);
  };
}
