import type { Person } from '../../contract/staff.ts';
import { RIGHTS, type Right } from '../../core/staff/rights.ts';
import type { Reader } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { isApprovedBy } from './store.ts';

/**
 * Whether somebody may take a step, alone or with an approval that was given for just this.
 * @param about what the approval was given for: the id of a basket, a cash move, a sale
 * @returns the approval, or `null` where none is needed. @throws Problem 403 `countersign-needed`
 */
export async function approvalFor(
  sql: Reader,
  person: Person,
  about: string,
  countersign: string | undefined,
  right: Right,
): Promise<string | null> {
  if (countersign !== undefined && (await isApprovedBy(sql, countersign, about, right))) return countersign;
  if (person.rights.includes(right)) return null;
  throw new Problem(403, 'countersign-needed', `${person.name} may not do this alone: ${RIGHTS[right]}.`, {
    detail: 'Somebody with more rights can approve it here with their PIN.',
  });
}
