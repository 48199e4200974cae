import type { App } from 'vue';
import { ApiProblem, problemWords, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from './noticeStore.ts';

/** Says what the server refused, or did not answer. @returns whether it was that */
function say(error: unknown): boolean {
  if (!(error instanceof ApiProblem || error instanceof Unreachable)) return false;
  useNoticeStore().failed(problemWords(error));
  return true;
}

/**
 * Whatever a press, a key or a scan asked for and was refused is said where nobody else says it, and so is a mistake
 * of the program: no button does nothing without a word.
 * @param page hears what keys and scans were refused, the window
 */
export function sayRefusals(app: App, page: EventTarget): void {
  app.config.errorHandler = (error) => {
    if (say(error)) return;
    useNoticeStore().failed('The program has made a mistake here. Load the page again.');
    reportError(error);
  };
  page.addEventListener('unhandledrejection', (event) => {
    if ('reason' in event && say(event.reason)) event.preventDefault();
  });
}
