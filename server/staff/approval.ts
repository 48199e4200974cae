import type { StoredBasket } from '../../contract/counter.ts';
import type { CountersignNeeded } from '../../contract/problem.ts';
import type { Person } from '../../contract/staff.ts';
import {
  approvalProblem,
  stepWords,
  type Approval,
  type ApprovalProblem,
  type Step,
  type Taker,
} from '../../core/staff/approval.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import type { Reader, Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import * as store from './store.ts';

/** Whoever takes a step for a basket, a sale or the like. */
export const takerOf = ({ sessionId }: Person, usedFor: string, at: Date): Taker => ({
  sessionId,
  at: at.getTime(),
  usedFor,
});

function whyNot(problem: ApprovalProblem, steps: readonly Step[], digits: number): string {
  const ask = 'Somebody with more rights can approve it here with their PIN.';
  switch (problem.kind) {
    case 'none':
      return ask;
    case 'used':
      return `The approval was used for something else. ${ask}`;
    case 'expired':
      return `The approval was given too long ago. ${ask}`;
    case 'other-session':
      return `The approval was given to somebody else. ${ask}`;
    case 'differs': {
      const now = steps.map((step) => stepWords(step, digits)).filter(Boolean);
      const before = problem.cover ? stepWords(problem.cover, digits) : '';
      return before && now.length > 0
        ? `Approved: ${before}. Now: ${now.join('; ')}. ${ask}`
        : `Something else was approved. ${ask}`;
    }
  }
}

/** Says that a step needs somebody with more rights, with both figures where another one was approved. */
export function countersignNeeded(
  person: Person,
  needed: CountersignNeeded,
  problem: ApprovalProblem,
  digits: number,
  data: Partial<StoredBasket> = {},
): Problem {
  const { name } = person;
  return new Problem('countersign-needed', `${name} may not do this alone: ${RIGHTS[needed.right]}.`, {
    detail: whyNot(problem, needed.steps, digits),
    data: { ...data, needed },
  });
}

/**
 * Whether somebody may take a step, alone or with an approval that was given for just this; an approval is used up by
 * it.
 * @param about what the approval was given for: the id of a basket, a cash move, a sale
 * @returns the approval, or `null` where none is needed. @throws Problem 403 `countersign-needed`
 */
export async function approvalFor(
  sql: Writer,
  person: Person,
  wanted: { about: string; countersign: string | undefined; right: Right; step: Step; at: Date },
): Promise<string | null> {
  const { about, countersign, right, step, at } = wanted;
  if (person.rights.includes(right)) return null;
  const given = countersign === undefined ? [] : await store.approvalsOf(sql, about);
  const approval = given.find(({ id }) => id === countersign);
  const problem = approvalProblem(approval, right, [step], takerOf(person, about, at));
  if (problem) {
    const { digits } = currencyOf(await store.currency(sql));
    throw countersignNeeded(person, { right, about, steps: [step] }, problem, digits);
  }
  if (approval) await useApprovals(sql, [approval], about, at);
  return approval?.id ?? null;
}

/** Notes what approvals were used for; each is used once. */
export async function useApprovals(
  sql: Writer,
  approvals: readonly Pick<Approval, 'id'>[],
  usedFor: string,
  at: Date,
): Promise<void> {
  await store.addUses(
    sql,
    approvals.map(({ id }) => id),
    usedFor,
    at,
  );
}

/** Approvals that were given for a basket or the like. */
export const approvalsOf = (sql: Reader, about: string): Promise<Approval[]> => store.approvalsOf(sql, about);
