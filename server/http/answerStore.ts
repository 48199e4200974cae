import { one, type Reader, type Writer } from '../db/database.ts';

/** What was asked with which key. */
export interface Asked {
  key: string;
  route: string;
  hash: string;
}

/** What a key was used for before, if it was. */
export async function askedWith(sql: Reader, key: string): Promise<Omit<Asked, 'key'> | undefined> {
  const [earlier] = await sql.query<Omit<Asked, 'key'>>(
    'select route, request_hash as hash from idempotency where key = $1',
    [key],
  );
  return earlier;
}

/** Notes what is asked with a key. @returns false where the key was used before */
export async function addAsked(sql: Writer, { key, route, hash }: Asked, at: Date): Promise<boolean> {
  const rows = await sql.query(
    `insert into idempotency (key, route, request_hash, at) values ($1, $2, $3, $4)
     on conflict do nothing returning key`,
    [key, route, hash, at.toISOString()],
  );
  return rows.length > 0;
}

export async function keepAnswer(sql: Writer, key: string, answer: unknown): Promise<void> {
  await sql.query('update idempotency set answer = $2 where key = $1', [key, JSON.stringify(answer)]);
}

/** What a key was answered with. */
export async function answerOf(sql: Reader, key: string): Promise<unknown> {
  return one(await sql.query<{ answer: unknown }>('select answer from idempotency where key = $1', [key]))
    .answer;
}

export async function dropAnswers(sql: Reader, before: Date): Promise<void> {
  await sql.query('delete from idempotency where at < $1', [before.toISOString()]);
}
