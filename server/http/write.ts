import { DAY_MS } from '../../core/day.ts';
import { createHash } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { mixed, string, ValidationError, type AnySchema, type InferType } from '../../contract/yup.ts';
import type { Person } from '../../contract/staff.ts';
import type { Right } from '../../core/staff/rights.ts';
import type { Reader, Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { addAsked, answerOf, askedWith, dropAnswers, keepAnswer, type Asked } from './answerStore.ts';
import { countValues, implausible } from './plausible.ts';
import { Problem } from './problem.ts';
import { personWith } from './session.ts';

export type { Asked };

const keySchema = string().uuid().required();

/** The key that makes a repeated write harmless. @throws Problem 400 when the request has none */
export function idempotencyKey(request: Request): string {
  const key = request.get('idempotency-key');
  if (!keySchema.isValidSync(key)) {
    throw new Problem('no-key', 'The request needs an Idempotency-Key (a UUID).');
  }
  return key;
}

/** What a request asks for, to be told from another one with the same key. @throws Problem 400 when it has none */
export function askedBy(request: Request, body: unknown): Asked {
  return {
    key: idempotencyKey(request),
    route: `${request.method} ${request.baseUrl}${request.path}`,
    hash: createHash('sha256')
      .update(JSON.stringify(body) ?? '')
      .digest('base64'),
  };
}

/** Whether this very request was carried out before. @throws Problem 422 where its key was used for another one */
export async function wasCarriedOut(sql: Reader, asked: Asked): Promise<boolean> {
  return isRepeat(asked, (await askedWith(sql, asked.key)) ?? null);
}

/**
 * Whether what was asked with a key before is this very request. @param earlier what the key was used for, if it was
 * @throws Problem 422 where it is another one
 */
export function isRepeat({ route, hash }: Asked, earlier: Omit<Asked, 'key'> | null): boolean {
  if (!earlier) return false;
  if (earlier.route !== route || earlier.hash !== hash) throw keyUsed();
  return true;
}

/**
 * Notes that a request is being carried out, in the transaction that does it. @returns false where it was before
 * @throws Problem 422 where its key was used for another one
 */
export const noteAsked = async (sql: Writer, asked: Asked, at: Date): Promise<boolean> =>
  (await addAsked(sql, asked, at)) || !(await wasCarriedOut(sql, asked));

const keyUsed = (): Problem => new Problem('key-used', 'This Idempotency-Key was used for another request.');

export interface WriteContext<Body> {
  sql: Writer;
  person: Person;
  body: Body;
  request: Request;
  /** Does something once the transaction is stored: telling the tills, waking the printer. */
  afterwards(work: () => void): void;
}

/** What a route takes as its body. */
export interface Taking {
  takes: AnySchema | null;
}

/**
 * A route that changes something: rights, a valid body and a key are checked, then `work` runs in one transaction
 * together with the note of its answer. The same key again gets the same answer and changes nothing.
 */
export const write = <Schema extends AnySchema>(
  house: House,
  right: Right,
  schema: Schema | null,
  work: (context: WriteContext<InferType<Schema>>) => Promise<unknown>,
): RequestHandler & Taking => lookAndWrite(house, right, schema, async () => {}, work);

/**
 * A route that looks before it writes: what takes long is found out while others go on, and `work` makes sure in its
 * transaction that it still holds.
 */
export function lookAndWrite<Schema extends AnySchema, Looked>(
  house: House,
  right: Right,
  schema: Schema | null,
  look: (body: InferType<Schema>) => Promise<Looked>,
  work: (context: WriteContext<InferType<Schema>>, looked: Looked) => Promise<unknown>,
): RequestHandler & Taking {
  const handler: RequestHandler = async (request, response) => {
    const person = personWith(request, right);
    idempotencyKey(request);
    const body = await validate(schema ?? mixed(), request);
    const asked = askedBy(request, body);
    // What it refuses is said in the transaction: whoever asks the same again is answered, whatever became of it since.
    const looked = await look(body as InferType<Schema>).then(
      (found) => () => found,
      (error: unknown) => () => {
        throw error;
      },
    );
    const afterwards: (() => void)[] = [];

    const answer = await house.database.write(async (sql) => {
      if (!(await noteAsked(sql, asked, house.clock.now()))) return answerOf(sql, asked.key);
      const made =
        (await work(
          {
            sql,
            person,
            body: body as InferType<Schema>,
            request,
            afterwards: (then) => afterwards.push(then),
          },
          looked(),
        )) ?? {};
      await keepAnswer(sql, asked.key, made);
      return made;
    });
    for (const then of afterwards) then();
    response.json(answer);
  };
  return Object.assign(handler, { takes: schema });
}

/** What whoever replaces something has looked at: which state of it, or what of it. */
type Looked = { version: number | null } | { revision: number } | { seen: object };

/**
 * A route that replaces something that others may have changed meanwhile. What is asked says what was looked at, and
 * `work` compares: nobody undoes unseen what another one has done.
 */
export function replace<Schema extends AnySchema>(
  house: House,
  right: Right,
  schema: InferType<Schema> extends Looked ? Schema : never,
  work: (context: WriteContext<InferType<Schema>>) => Promise<unknown>,
): RequestHandler {
  return write<Schema>(house, right, schema, work);
}

const KEPT_DAYS = 30;

/** Forgets answers so old that nobody asks again. */
export async function forgetOldAnswers({
  database,
  clock,
}: Pick<House, 'database' | 'clock'>): Promise<void> {
  const before = new Date(clock.now().getTime() - KEPT_DAYS * DAY_MS);
  await database.ask((sql) => dropAnswers(sql, before));
}

/** Up to so many values every wrong field of a form is named; of more, the first one is. */
const WHOLE_FORM = 200;

/** The request's body as the schema has it. @throws Problem 422, ValidationError with what is wrong */
export async function validate<Schema extends AnySchema>(
  schema: Schema,
  request: Request,
): Promise<InferType<Schema>> {
  const body: unknown = request.body;
  const problem = implausible(body, schema);
  if (problem) throw problem;
  return (await checked(schema, body, countValues(body) <= WHOLE_FORM)) as InferType<Schema>;
}

/** What an address asks for, as the schema has it. @throws Problem 422, ValidationError with what is wrong */
export async function validateQuery<Schema extends AnySchema>(
  schema: Schema,
  request: Request,
): Promise<InferType<Schema>> {
  const problem = implausible(request.query, schema);
  if (problem) throw problem;
  return (await checked(schema, request.query, true)) as InferType<Schema>;
}

async function checked(schema: AnySchema, value: unknown, whole: boolean): Promise<unknown> {
  try {
    return await schema.validate(value, { abortEarly: !whole, stripUnknown: true, disableStackTrace: true });
  } catch (error) {
    if (error instanceof ValidationError) throw error;
    // A transform met something that it was not made for: a list where a text should be.
    throw new Problem('not-valid', 'The request is not what it should be.');
  }
}
