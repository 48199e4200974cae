import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { soundRefusal } from './sound.ts';
import { useScans } from './scanner.ts';

/**
 * For as long as a form is there, what is scanned goes to it: each code once the one before is done with, for that may
 * say what the next one means. What goes wrong is said.
 * @returns does something else in its turn among them
 */
export function useScansInTurn(
  take: (code: string) => Promise<void>,
  when?: () => boolean,
): (work: () => Promise<void>) => Promise<void> {
  const notices = useNoticeStore();
  let before = Promise.resolve();
  const inTurn = (work: () => Promise<void>) =>
    (before = before.then(work).catch((problem: unknown) => {
      soundRefusal();
      notices.failed(problemWords(problem));
    }));
  useScans((code) => void inTurn(() => take(code)), when);
  return inTurn;
}

/** A code means nothing here. */
export class NothingHas extends Error {
  constructor(code: string) {
    super(`Nothing has the code ${code}.`);
  }
}

/**
 * For as long as a form is there, goods that are scanned go into it.
 * @param search asks what just this code means
 */
export function useScannedGoods<T>(
  search: (code: string) => Promise<readonly T[]>,
  take: (one: T) => void,
  when?: () => boolean,
): void {
  useScansInTurn(async (code) => {
    const [one] = await search(code);
    if (one === undefined) throw new NothingHas(code);
    take(one);
  }, when);
}
