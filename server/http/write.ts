import { createHash } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { mixed, string, type AnySchema, type InferType } from 'yup';
import type { Person } from '../../contract/staff.ts';
import type { Right } from '../../core/staff/rights.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from './problem.ts';
import { personWith } from './session.ts';

const keySchema = string().uuid().required();

/** The key that makes a repeated write harmless. @throws Problem 400 when the request has none */
export function idempotencyKey(request: Request): string {
  const key = request.get('idempotency-key');
  if (!keySchema.isValidSync(key)) {
    throw new Problem(400, 'no-key', 'The request needs an Idempotency-Key (a UUID).');
  }
  return key;
}

export interface WriteContext<Body> {
  sql: Writer;
  person: Person;
  body: Body;
  request: Request;
  /** Does something once the transaction is stored: telling the tills, waking the printer. */
  afterwards(work: () => void): void;
}

/**
 * A route that changes something: rights, a valid body and a key are checked, then `work` runs in one transaction
 * together with the note of its answer. The same key again gets the same answer and changes nothing.
 */
export function write<Schema extends AnySchema>(
  house: House,
  right: Right,
  schema: Schema | null,
  work: (context: WriteContext<InferType<Schema>>) => Promise<unknown>,
): RequestHandler {
  return async (request, response) => {
    const person = personWith(request, right);
    const key = idempotencyKey(request);
    const body = await validate(schema ?? mixed(), request);
    const route = `${request.method} ${request.baseUrl}${request.path}`;
    const hash = createHash('sha256')
      .update(JSON.stringify(body) ?? '')
      .digest('base64');
    const afterwards: (() => void)[] = [];

    const answer = await house.database.write(async (sql) => {
      const [fresh] = await sql.query(
        `insert into idempotency (key, route, request_hash, at) values ($1, $2, $3, $4)
         on conflict do nothing returning key`,
        [key, route, hash, house.clock.now().toISOString()],
      );
      if (!fresh) return earlierAnswer(sql, key, route, hash);
      const made =
        (await work({
          sql,
          person,
          body: body as InferType<Schema>,
          request,
          afterwards: (then) => afterwards.push(then),
        })) ?? {};
      await sql.query('update idempotency set answer = $2 where key = $1', [key, JSON.stringify(made)]);
      return made;
    });
    for (const then of afterwards) then();
    response.json(answer);
  };
}

const KEPT_DAYS = 30;

/** Forgets answers so old that nobody asks again. */
export async function forgetOldAnswers({
  database,
  clock,
}: Pick<House, 'database' | 'clock'>): Promise<void> {
  const before = new Date(clock.now().getTime() - KEPT_DAYS * 86_400_000);
  await database.ask((sql) => sql.query('delete from idempotency where at < $1', [before.toISOString()]));
}

async function earlierAnswer(sql: Writer, key: string, route: string, hash: string): Promise<unknown> {
  const [earlier] = await sql.query<{ route: string; request_hash: string; answer: unknown }>(
    'select route, request_hash, answer from idempotency where key = $1',
    [key],
  );
  if (earlier?.route !== route || earlier.request_hash !== hash) {
    throw new Problem(422, 'key-used', 'This Idempotency-Key was used for another request.');
  }
  return earlier.answer;
}

/** The request's body as the schema has it. @throws ValidationError with every wrong field */
export async function validate<Schema extends AnySchema>(
  schema: Schema,
  request: Request,
): Promise<InferType<Schema>> {
  return (await schema.validate(request.body, {
    abortEarly: false,
    stripUnknown: true,
  })) as InferType<Schema>;
}
