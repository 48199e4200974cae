import { reactive, toRaw, watch, type Reactive, type Ref } from 'vue';
import { useRemembered, type Remembered } from '../look/remembered.ts';
import { wasChanged } from '../net/problem.ts';
import { follow } from '../notices/follow.ts';
import { useAttempt } from '../notices/attempt.ts';

/**
 * A form of settings that others may change meanwhile. What nobody has touched in it follows what is kept; what was
 * typed stays, however often the page looks again, and undoes nothing that was not told.
 * @param facts what is kept, with the last change that it holds
 * @param title what the form is called
 * @param asForm the facts as they stand in the form
 */
export function useSettingsForm<Facts extends { seen: number }, Form extends object>(
  title: string,
  facts: () => Facts | null | undefined,
  asForm: (facts: Facts) => Form,
): {
  form: Reactive<Form>;
  /** What is wrong, by field. */
  wrong: Ref<Record<string, string>>;
  remembered: Remembered;
  /** Keeps the form. @param work sends it, with what its person has seen @returns whether it was done */
  keep: (work: (seen: number) => Promise<unknown>, done: string) => Promise<boolean>;
} {
  const { wrong, attempt } = useAttempt();
  const first = facts();
  if (!first) throw new Error('There is nothing yet that a form could be of.');
  /** As it was looked at last. */
  let now = first;
  const form = reactive(asForm(now));
  const remembered = useRemembered(`settings ${title}`, () => title, form);
  let kept = asForm(now);
  let { seen } = now;
  /** Whether something was changed elsewhere that was changed here as well: its person has yet to be told. */
  let untold = false;

  watch(
    facts,
    (fresher) => {
      if (!fresher) return;
      now = fresher;
      if (!follow(form as Form, kept, asForm(now))) untold = true;
      kept = asForm(now);
      if (!untold) seen = now.seen;
    },
    { flush: 'sync' },
  );

  /** Whoever has the form knows of everything that is kept now. */
  function told(): void {
    untold = false;
    seen = now.seen;
  }

  return {
    form,
    wrong,
    remembered,
    async keep(work, done) {
      const sent = structuredClone(toRaw(form) as Form);
      const refused = (problem: unknown): never => {
        if (wasChanged(problem)) told();
        throw problem;
      };
      if (!(await attempt(work(seen).catch(refused), done))) return false;
      told();
      // What was typed while it was sent stays.
      follow(form as Form, sent, asForm(now));
      return true;
    },
  };
}
