import equal from 'fast-deep-equal';
import { wasChanged } from '../net/problem.ts';
import { follows } from '../net/unsaved.ts';

/**
 * Lets a form follow what is kept: fields that nobody has touched become as it is now, what was typed stays.
 * @param before what was kept when the form was last as it is kept
 * @param now what is kept; the form takes of it what it needs
 * @returns whether that is all: nothing was changed elsewhere that was changed in the form as well
 */
export function follow<Form extends object>(form: Form, before: Form, now: Form): boolean {
  const clashes = (Object.keys(now) as (keyof Form)[]).filter((field) => {
    if (!equal(form[field], before[field]))
      return !equal(now[field], before[field]) && !equal(now[field], form[field]);
    form[field] = now[field];
    return false;
  });
  follows(form, now);
  return clashes.length === 0;
}

/** Passes a problem on; where another one has changed something meanwhile, once that was looked at. */
export const lookFirst =
  (look: () => Promise<unknown>) =>
  async (problem: unknown): Promise<never> => {
    if (wasChanged(problem)) await look().catch(() => {});
    throw problem;
  };
