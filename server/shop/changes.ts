import type { Request, RequestHandler } from 'express';
import { safe, type AnySchema, type InferType } from '../../contract/yup.ts';
import { changedWords, settingChanges, undoneUnseen } from '../../core/setup/changes.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { write, type WriteContext } from '../http/write.ts';
import { changesSince, noteChange, takeTurns } from './changeStore.ts';

const seenSchema = safe().min(0).required();

/**
 * The last change of Setup that somebody had seen who changes something now, as `Setup-Seen` says it.
 * @throws Problem 400 where the request does not say it
 */
export function seenBy(request: Request): number {
  const seen = request.get('setup-seen');
  if (!seenSchema.isValidSync(seen)) {
    throw new Problem('no-key', 'The request needs Setup-Seen: the last change that was seen.');
  }
  return Number(seen);
}

/**
 * Keeps what a piece of work changes in Setup, in the transaction that changes it. Nobody undoes what another one has
 * changed since they looked: they are told of it first.
 * @throws Problem 409 where it would
 */
export async function keepChanges<T>(
  { settingsInWords }: Pick<House, 'settingsInWords'>,
  sql: Writer,
  { staffId, at, seen }: { staffId: number; at: Date; seen: number },
  work: () => Promise<T>,
): Promise<T> {
  await takeTurns(sql);
  const before = await settingsInWords(sql, at);
  const made = await work();
  const changes = settingChanges(before, await settingsInWords(sql, at));
  const undone = undoneUnseen(changes, await changesSince(sql, seen));
  if (undone.length > 0) {
    throw new Problem('changed-meanwhile', 'This was changed meanwhile. Nothing was done.', {
      detail: `${undone.map(changedWords).join(' ')} Look at it, then save again.`,
    });
  }
  for (const change of changes) await noteChange(sql, change, { staffId, at });
  return made;
}

/** A route that changes the setup, by who may; what it changes is kept with who did it, and every till looks again. */
export function change<Schema extends AnySchema>(
  house: House,
  schema: Schema | null,
  work: (context: WriteContext<InferType<Schema>>) => Promise<unknown>,
): RequestHandler {
  return write(house, 'shop.set-up', schema, async (context) => {
    const { sql, person, request, afterwards } = context;
    const by = { staffId: person.staffId, at: house.clock.now(), seen: seenBy(request) };
    const made = await keepChanges(house, sql, by, () => work(context));
    afterwards(() => house.events.tell({ kind: 'shop-changed' }));
    return made;
  });
}
