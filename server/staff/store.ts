import type { Approval, Cover } from '../../core/staff/approval.ts';
import type { Right, Role } from '../../core/staff/rights.ts';
import type { StaffMember } from '../../contract/setup.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export interface StaffRow {
  id: number;
  name: string;
  role: Role;
  pin_salt: string;
  pin_hash: string;
}

export async function staffByPinKey(sql: Reader, pinKey: string): Promise<StaffRow | undefined> {
  const [row] = await sql.query<StaffRow>(
    'select id, name, role, pin_salt, pin_hash from staff where pin_key = $1 and active',
    [pinKey],
  );
  return row;
}

/** The secret as earlier versions and a shop that is only being laid down keep it, or nothing. */
export async function keptPinSecret(sql: Reader): Promise<string | null> {
  const [row] = await sql.query<{ secret: string }>('select secret from pin_secret');
  return row?.secret ?? null;
}

export async function addPinSecret(sql: Writer, secret: string): Promise<void> {
  await sql.query('insert into pin_secret (secret) values ($1) on conflict do nothing', [secret]);
}

export async function dropPinSecret(sql: Writer): Promise<void> {
  await sql.query('delete from pin_secret');
}

export async function countStaff(sql: Reader): Promise<number> {
  return one(await sql.query<{ count: number }>('select count(*)::integer as count from staff')).count;
}

export async function addStaff(
  sql: Writer,
  staff: { name: string; role: Role; pinKey: string; salt: string; hash: string },
): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    'insert into staff (name, role, pin_key, pin_salt, pin_hash) values ($1, $2, $3, $4, $5) returning id',
    [staff.name, staff.role, staff.pinKey, staff.salt, staff.hash],
  );
  return one(rows).id;
}

export async function setRights(sql: Writer, role: Role, rights: readonly Right[]): Promise<void> {
  await sql.query(
    'insert into role_right (role, "right") select $1, unnest($2::text[]) on conflict do nothing',
    [role, rights],
  );
}

export async function isTill(sql: Reader, tillId: number): Promise<boolean> {
  return (await sql.query('select 1 from till where id = $1', [tillId])).length > 0;
}

export async function addSession(
  sql: Writer,
  session: { tokenHash: string; staffId: number; tillId: number; at: Date },
): Promise<void> {
  await sql.query('insert into session (token_hash, staff_id, till_id, started_at) values ($1, $2, $3, $4)', [
    session.tokenHash,
    session.staffId,
    session.tillId,
    session.at.toISOString(),
  ]);
}

export async function endSession(sql: Writer, tokenHash: string, at: Date): Promise<void> {
  await sql.query('update session set ended_at = $2 where token_hash = $1 and ended_at is null', [
    tokenHash,
    at.toISOString(),
  ]);
}

/** Ends every session of somebody: what they may do has changed, or they asked for it. */
export async function endSessionsOf(sql: Writer, staffId: number, at: Date): Promise<void> {
  await sql.query('update session set ended_at = $2 where staff_id = $1 and ended_at is null', [
    staffId,
    at.toISOString(),
  ]);
}

export async function findStaff(sql: Reader, id: number): Promise<StaffMember | undefined> {
  const [row] = await sql.query<StaffMember>('select id, name, role, active from staff where id = $1', [id]);
  return row;
}

export async function sessionPerson(sql: Reader, tokenHash: string) {
  const [row] = await sql.query<{
    staffId: number;
    name: string;
    role: Role;
    tillId: number;
    rights: Right[];
    sessionId: number;
    startedAt: string;
    timezone: string;
  }>(
    `select session.id as "sessionId", staff.id as "staffId", staff.name, staff.role, session.till_id as "tillId",
            array(select "right" from role_right where role_right.role = staff.role order by 1) as rights,
            session.started_at as "startedAt", (select timezone from shop) as timezone
     from session join staff on staff.id = session.staff_id
     where session.token_hash = $1 and session.ended_at is null and staff.active`,
    [tokenHash],
  );
  return row;
}

export async function addCountersign(
  sql: Writer,
  given: {
    id: string;
    at: Date;
    tillId: number;
    basketId: string;
    right: Right;
    reason: string;
    askedBy: number;
    grantedBy: number;
    covers: readonly Cover[];
    sessionId: number;
  },
): Promise<void> {
  await sql.query(
    `insert into countersign (id, at, till_id, basket_id, "right", reason, asked_by, granted_by, covers, session_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) on conflict (id) do nothing`,
    [
      given.id,
      given.at.toISOString(),
      given.tillId,
      given.basketId,
      given.right,
      given.reason,
      given.askedBy,
      given.grantedBy,
      JSON.stringify(given.covers),
      given.sessionId,
    ],
  );
}

export async function hasRight(sql: Reader, role: Role, right: Right): Promise<boolean> {
  return (
    (await sql.query('select 1 from role_right where role = $1 and "right" = $2', [role, right])).length > 0
  );
}

export async function addAudit(
  sql: Writer,
  entry: { at: Date; staffId: number | null; tillId: number | null; what: string; details?: object },
): Promise<void> {
  await sql.query('insert into audit (at, staff_id, till_id, what, details) values ($1, $2, $3, $4, $5)', [
    entry.at.toISOString(),
    entry.staffId,
    entry.tillId,
    entry.what,
    JSON.stringify(entry.details ?? {}),
  ]);
}

export function listStaff(sql: Reader): Promise<StaffMember[]> {
  return sql.query('select id, name, role, active from staff order by active desc, name');
}

export function listRights(sql: Reader): Promise<{ role: Role; right: Right }[]> {
  return sql.query('select role, "right" from role_right order by 1, 2');
}

export async function changeStaff(sql: Writer, person: StaffMember): Promise<boolean> {
  const rows = await sql.query(
    'update staff set name = $2, role = $3, active = $4 where id = $1 returning id',
    [person.id, person.name, person.role, person.active],
  );
  return rows.length > 0;
}

/** Puts the look-up key of an earlier version right. */
export async function changePinKey(sql: Writer, id: number, pinKey: string): Promise<void> {
  await sql.query('update staff set pin_key = $2 where id = $1', [id, pinKey]);
}

export async function changePin(
  sql: Writer,
  id: number,
  pin: { pinKey: string; salt: string; hash: string },
): Promise<void> {
  await sql.query('update staff set pin_key = $2, pin_salt = $3, pin_hash = $4 where id = $1', [
    id,
    pin.pinKey,
    pin.salt,
    pin.hash,
  ]);
}

export async function takeRight(sql: Writer, role: Role, right: Right): Promise<void> {
  await sql.query('delete from role_right where role = $1 and "right" = $2', [role, right]);
}

/** How many active people may set up the shop. */
export async function countThoseWhoSetUp(sql: Reader): Promise<number> {
  const rows = await sql.query<{ count: number }>(
    `select count(*)::integer as count from staff
     where active and exists (select 1 from role_right where role_right.role = staff.role and "right" = 'shop.set-up')`,
  );
  return one(rows).count;
}

/** Approvals that were given for a basket, a sale or a cash move. */
export function approvalsOf(sql: Reader, about: string): Promise<Approval[]> {
  return sql.query<Approval>(
    `select id, "right", covers, coalesce(session_id, 0) as "sessionId",
            (extract(epoch from countersign.at) * 1000)::bigint as at, used_for as "usedFor"
     from countersign left join countersign_use on countersign_id = id where basket_id = $1`,
    [about],
  );
}

/** Notes what approvals were used for. @throws Error where one was used for something else meanwhile */
export async function addUses(sql: Writer, ids: readonly string[], usedFor: string, at: Date): Promise<void> {
  await sql.query(
    `insert into countersign_use (countersign_id, at, used_for) select unnest($1::uuid[]), $2, $3
     on conflict (countersign_id) do nothing`,
    [ids, at.toISOString(), usedFor],
  );
}

export async function currency(sql: Reader): Promise<string> {
  return one(await sql.query<{ currency: string }>('select currency from shop')).currency;
}
