import { counted } from '../../core/locale.ts';
import { createHash, randomBytes } from 'node:crypto';
import type { Countersign, CountersignRequest, Person, SignIn } from '../../contract/staff.ts';
import type { StaffMember } from '../../contract/setup.ts';
import { RIGHTS, ROLE_RIGHTS, ROLES, type Right, type Role } from '../../core/staff/rights.ts';
import { nightPassed } from '../../core/staff/sessionEnd.ts';
import { businessDate, instant } from '../clock.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { earlierPinKeyOf, newPinSecret, pinFits, pinKeyOf, storePin } from './pin.ts';
import * as store from './store.ts';
import type { Trier } from './tries.ts';

const hashOf = (token: string) => createHash('sha256').update(token).digest('base64');

/** The person of a session, or `undefined` when the session has ended, a night has passed, or it never was. */
export async function findSession({ database, clock }: House, token: string): Promise<Person | undefined> {
  const found = await database.ask((sql) => store.sessionPerson(sql, hashOf(token)));
  if (!found) return undefined;
  const { startedAt, timezone, ...person } = found;
  const dayOf = (at: Date) => businessDate(at, timezone);
  return nightPassed(instant(startedAt).toJSDate(), clock.now(), dayOf) ? undefined : person;
}

/**
 * Signs a person in at a till. Each wrong PIN makes the till and the address it comes from wait longer; the wait
 * outlives a restart.
 * @returns the session's token, which only the browser keeps
 * @throws Problem 401 for a wrong PIN, 429 while one has to wait
 */
export async function signIn(
  house: House,
  { pin, tillId }: SignIn,
  source: string,
): Promise<{ token: string; person: Person }> {
  const { database, clock } = house;
  const staff = await knownByPin(house, pin, { what: 'pin', tillId, source });
  const at = clock.now();
  const token = randomBytes(32).toString('base64url');
  const person = await database.write(async (sql) => {
    await store.addSession(sql, { tokenHash: hashOf(token), staffId: staff.id, tillId, at });
    await store.addAudit(sql, { at, staffId: staff.id, tillId, what: 'signed-in' });
    return store.sessionPerson(sql, hashOf(token));
  });
  if (!person) throw new Error('the new session was not found');
  const { startedAt: _startedAt, timezone: _timezone, ...rest } = person;
  return { token, person: rest };
}

/**
 * Finds out whose PIN it is. @throws Problem 401 where nobody has it, 429 while one has to wait, 422 for an unknown
 * till
 */
async function knownByPin(house: House, pin: string, trier: Trier): Promise<store.StaffRow> {
  const { database, clock, tries } = house;
  const { tillId } = trier;
  if (!(await database.ask((sql) => store.isTill(sql, tillId)))) {
    const fields = [{ field: 'tillId', message: 'Choose a till.' }];
    throw new Problem('unknown-till', 'This till does not exist.', { fields });
  }
  const tried = await tries.attempt(trier, () => staffWithPin(house, pin));
  if ('found' in tried) return tried.found;
  if (!tried.judged) throw tooEarly(tried.wait);
  const at = clock.now();
  await database.write((sql) => store.addAudit(sql, { at, staffId: null, tillId, what: 'wrong-pin' }));
  throw wrongPin(tried.wait);
}

/** Whose PIN it is. What is slow happens outside of the database. */
async function staffWithPin({ database, pinKey }: House, pin: string): Promise<store.StaffRow | null> {
  const key = await pinKeyOf(pin, pinKey);
  const now = await database.ask((sql) => store.staffByPinKey(sql, key));
  const found = now ?? (await database.ask((sql) => store.staffByPinKey(sql, earlierPinKeyOf(pin, pinKey))));
  if (!found || !(await pinFits(pin, { salt: found.pin_salt, hash: found.pin_hash }))) return null;
  if (!now) await database.write((sql) => store.changePinKey(sql, found.id, key));
  return found;
}

/**
 * A second person approves one step of a basket with their PIN; who asked, who approved, what and why is recorded.
 * @param id of the approval, which the basket carries from then on
 * @throws Problem 401 for a wrong PIN, 403 when that person may not do it either, 429 while the till waits
 */
export async function countersign(
  house: House,
  person: Person,
  id: string,
  { pin, right, basketId, reason, covers }: CountersignRequest,
  source: string,
): Promise<Countersign> {
  const { tillId, staffId: askedBy, sessionId } = person;
  const staff = await knownByPin(house, pin, { what: 'pin', tillId, source });
  const at = house.clock.now();
  return house.database.write(async (sql) => {
    if (!(await store.hasRight(sql, staff.role, right))) {
      const message = `${staff.name} may not do this either: ${RIGHTS[right]}.`;
      throw new Problem('no-right', message, { fields: [{ field: 'pin', message }] });
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
}

/** Ends a session: signing out and locking are the same to the server. */
export async function signOut({ database, clock }: House, token: string, person: Person): Promise<void> {
  const at = clock.now();
  await database.write(async (sql) => {
    await store.endSession(sql, hashOf(token), at);
    await store.addAudit(sql, { at, staffId: person.staffId, tillId: person.tillId, what: 'signed-out' });
  });
}

/** Ends every session of a person, on whichever till. */
export async function signOutEverywhere(sql: Writer, staffId: number, by: Person, at: Date): Promise<void> {
  await store.endSessionsOf(sql, staffId, at);
  const { tillId } = by;
  await store.addAudit(sql, {
    at,
    staffId: by.staffId,
    tillId,
    what: 'signed-out-everywhere',
    details: { staffId },
  });
}

/**
 * Makes a person known. @param pinKey the installation's secret; without one, that of a shop which is only being laid
 * down
 * @throws Problem 422 when the PIN is taken
 */
export async function addStaff(
  sql: Writer,
  staff: { name: string; role: Role; pin: string },
  pinKey?: string,
): Promise<number> {
  const secret = pinKey ?? (await secretToHandOver(sql));
  return store.addStaff(sql, {
    name: staff.name,
    role: staff.role,
    ...(await freshPin(sql, staff.pin, secret)),
  });
}

async function secretToHandOver(sql: Writer): Promise<string> {
  await store.addPinSecret(sql, newPinSecret());
  const secret = await store.keptPinSecret(sql);
  if (secret === null) throw new Error('the secret was not kept');
  return secret;
}

/** A PIN as it is stored. @throws Problem 422 when somebody else has it */
async function freshPin(sql: Writer, pin: string, secret: string, of?: number) {
  const stored = await storePin(pin, secret);
  const other =
    (await store.staffByPinKey(sql, stored.pinKey)) ??
    (await store.staffByPinKey(sql, earlierPinKeyOf(pin, secret)));
  if (other && other.id !== of) {
    throw new Problem('pin-taken', 'Choose another PIN.', {
      fields: [{ field: 'pin', message: 'Choose another PIN: somebody else has this one.' }],
    });
  }
  return stored;
}

/**
 * Changes somebody's name, role, PIN, or whether they work here. With another role or PIN, or when they leave, they are
 * signed out everywhere. @throws Problem 404, 409 `nobody-left`, 422 `pin-taken`
 */
export async function changeStaff(
  sql: Writer,
  person: StaffMember,
  pin: string | undefined,
  by: { pinKey: string; at: Date },
): Promise<void> {
  const before = await store.findStaff(sql, person.id);
  if (!before) throw new Problem('no-person', 'There is no such person.');
  if (pin) await store.changePin(sql, person.id, await freshPin(sql, pin, by.pinKey, person.id));
  await store.changeStaff(sql, person);
  if (pin || before.role !== person.role || before.active !== person.active)
    await store.endSessionsOf(sql, person.id, by.at);
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
  throw new Problem('nobody-left', 'Then nobody could set up the shop any more.', {
    detail: 'Give somebody else that right first.',
  });
}

/** Lays down the rights of each role as they come. */
export async function addRoleRights(sql: Writer): Promise<void> {
  for (const role of ROLES) await store.setRights(sql, role, ROLE_RIGHTS[role]);
}

function tooEarly(seconds: number): Problem {
  return new Problem('wait', `Too many wrong PINs. Wait ${counted(seconds, 'second')}.`, {
    data: { seconds },
  });
}

function wrongPin(delay: number): Problem {
  const wait = delay ? ` Wait ${counted(delay, 'second')}.` : '';
  return new Problem('wrong-pin', `Wrong PIN.${wait}`, {
    data: { seconds: delay },
    fields: [{ field: 'pin', message: `Wrong PIN.${wait}` }],
  });
}
