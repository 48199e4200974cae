import { createHash, randomBytes } from 'node:crypto';
import type { Countersign, CountersignRequest, Person, SignIn } from '../../contract/staff.ts';
import { pinDelay } from '../../core/staff/pinDelay.ts';
import type { StaffMember } from '../../contract/setup.ts';
import { RIGHTS, ROLE_RIGHTS, ROLES, type Right, type Role } from '../../core/staff/rights.ts';
import { instant } from '../clock.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { newPinSecret, pinFits, pinKeyOf, storePin } from './pin.ts';
import * as store from './store.ts';

const hashOf = (token: string) => createHash('sha256').update(token).digest('base64');

/** The person of a session, or `undefined` when the session has ended or never was. */
export function findSession({ database }: House, token: string): Promise<Person | undefined> {
  return database.ask((sql) => store.sessionPerson(sql, hashOf(token)));
}

/**
 * Signs a person in at a till. Each wrong PIN in a row makes the till wait longer; the wait outlives a restart.
 * @returns the session's token, which only the browser keeps
 * @throws Problem 401 for a wrong PIN, 429 while the till waits
 */
export async function signIn(
  { database, clock }: House,
  { pin, tillId }: SignIn,
): Promise<{ token: string; person: Person }> {
  const at = clock.now();
  const token = randomBytes(32).toString('base64url');
  const outcome = await database.write(async (sql) => {
    const staff = await knownByPin(sql, { pin, tillId, at });
    if (staff instanceof Problem) return staff;
    await store.addSession(sql, { tokenHash: hashOf(token), staffId: staff.id, tillId, at });
    await store.addAudit(sql, { at, staffId: staff.id, tillId, what: 'signed-in' });
    return store.sessionPerson(sql, hashOf(token));
  });
  if (outcome instanceof Problem) throw outcome;
  if (!outcome) throw new Error('the new session was not found');
  return { token, person: outcome };
}

/**
 * Finds out whose PIN it is. A wrong one makes the till wait; that must be stored, so the problem is returned, not thrown.
 */
async function knownByPin(
  sql: Writer,
  { pin, tillId, at }: { pin: string; tillId: number; at: Date },
): Promise<store.StaffRow | Problem> {
  const state = await store.lockPinState(sql, tillId);
  if (!state) {
    const fields = [{ field: 'tillId', message: 'Choose a till.' }];
    return new Problem(422, 'no-till', 'This till does not exist.', { fields });
  }
  const waits = secondsUntil(state.blocked_until, at);
  if (waits > 0) return tooEarly(waits);

  const staff = await store.staffByPinKey(sql, pinKeyOf(pin, await store.pinSecret(sql)));
  if (!staff || !(await pinFits(pin, { salt: staff.pin_salt, hash: staff.pin_hash }))) {
    const wrong = state.wrong_pins + 1;
    const delay = pinDelay(wrong);
    await store.setPinState(sql, tillId, wrong, delay ? new Date(at.getTime() + delay * 1000) : null);
    await store.addAudit(sql, { at, staffId: null, tillId, what: 'wrong-pin', details: { inARow: wrong } });
    return wrongPin(delay);
  }
  await store.setPinState(sql, tillId, 0, null);
  return staff;
}

/**
 * A second person approves one step of a basket with their PIN; who asked, who approved, what and why is recorded.
 * @param id of the approval, which the basket carries from then on
 * @throws Problem 401 for a wrong PIN, 403 when that person may not do it either, 429 while the till waits
 */
export async function countersign(
  { database, clock }: House,
  person: Person,
  id: string,
  { pin, right, basketId, reason, covers }: CountersignRequest,
): Promise<Countersign> {
  const at = clock.now();
  const { tillId, staffId: askedBy, sessionId } = person;
  const outcome = await database.write(async (sql) => {
    const staff = await knownByPin(sql, { pin, tillId, at });
    if (staff instanceof Problem) return staff;
    if (!(await store.hasRight(sql, staff.role, right))) {
      const message = `${staff.name} may not do this either: ${RIGHTS[right]}.`;
      return new Problem(403, 'no-right', message, { fields: [{ field: 'pin', message }] });
    }
    await store.addCountersign(sql, {
      id,
      at,
      tillId,
      basketId,
      right,
      reason,
      askedBy,
      grantedBy: staff.id,
      covers,
      sessionId,
    });
    return { id, by: staff.name };
  });
  if (outcome instanceof Problem) throw outcome;
  return outcome;
}

/** Ends a session: signing out and locking are the same to the server. */
export async function signOut({ database, clock }: House, token: string, person: Person): Promise<void> {
  const at = clock.now();
  await database.write(async (sql) => {
    await store.endSession(sql, hashOf(token), at);
    await store.addAudit(sql, { at, staffId: person.staffId, tillId: person.tillId, what: 'signed-out' });
  });
}

/** Makes a person known. @throws Problem 422 when the PIN is taken */
export async function addStaff(
  sql: Writer,
  staff: { name: string; role: Role; pin: string },
): Promise<number> {
  await store.addPinSecret(sql, newPinSecret());
  return store.addStaff(sql, { name: staff.name, role: staff.role, ...(await freshPin(sql, staff.pin)) });
}

/** A PIN as it is stored. @throws Problem 422 when somebody else has it */
async function freshPin(sql: Writer, pin: string, of?: number) {
  const stored = await storePin(pin, await store.pinSecret(sql));
  const other = await store.staffByPinKey(sql, stored.pinKey);
  if (other && other.id !== of) {
    throw new Problem(422, 'pin-taken', 'Choose another PIN.', {
      fields: [{ field: 'pin', message: 'Choose another PIN: somebody else has this one.' }],
    });
  }
  return stored;
}

/** Changes somebody's name, role, PIN, or whether they work here. @throws Problem 404, 409 `nobody-left`, 422 `pin-taken` */
export async function changeStaff(sql: Writer, person: StaffMember, pin: string | undefined): Promise<void> {
  if (pin) await store.changePin(sql, person.id, await freshPin(sql, pin, person.id));
  if (!(await store.changeStaff(sql, person)))
    throw new Problem(404, 'no-person', 'There is no such person.');
  await keepSomebodyInCharge(sql);
}

/** Gives a role a right or takes it. @throws Problem 409 `nobody-left` */
export async function setRight(sql: Writer, role: Role, right: Right, granted: boolean): Promise<void> {
  if (granted) await store.setRights(sql, role, [right]);
  else await store.takeRight(sql, role, right);
  await keepSomebodyInCharge(sql);
}

/** A shop that nobody may set up could not be mended any more. */
async function keepSomebodyInCharge(sql: Writer): Promise<void> {
  if ((await store.countThoseWhoSetUp(sql)) > 0) return;
  throw new Problem(409, 'nobody-left', 'Then nobody could set up the shop any more.', {
    detail: 'Give somebody else that right first.',
  });
}

/** Lays down the rights of each role as they come. */
export async function addRoleRights(sql: Writer): Promise<void> {
  for (const role of ROLES) await store.setRights(sql, role, ROLE_RIGHTS[role]);
}

function secondsUntil(blockedUntil: string | null, at: Date): number {
  if (!blockedUntil) return 0;
  return Math.ceil((instant(blockedUntil).toMillis() - at.getTime()) / 1000);
}

function tooEarly(seconds: number): Problem {
  return new Problem(429, 'wait', `Too many wrong PINs. Wait ${seconds} second${seconds === 1 ? '' : 's'}.`, {
    data: { seconds },
  });
}

function wrongPin(delay: number): Problem {
  const wait = delay ? ` Wait ${delay} seconds.` : '';
  return new Problem(401, 'wrong-pin', `Nobody has this PIN.${wait}`, {
    data: { seconds: delay },
    fields: [{ field: 'pin', message: `Nobody has this PIN.${wait}` }],
  });
}
