import type { RequestHandler } from 'express';
import type { AnySchema, InferType } from '../../contract/yup.ts';
import { settingChanges } from '../../core/setup/changes.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { write, type WriteContext } from '../http/write.ts';
import { noteChange } from './changeStore.ts';

/** Keeps what a piece of work changes in Setup, in the transaction that changes it. */
export async function keepChanges<T>(
  { settingsInWords }: Pick<House, 'settingsInWords'>,
  sql: Writer,
  { staffId, at }: { staffId: number; at: Date },
  work: () => Promise<T>,
): Promise<T> {
  const before = await settingsInWords(sql, at);
  const made = await work();
  for (const change of settingChanges(before, await settingsInWords(sql, at))) {
    await noteChange(sql, change, { staffId, at });
  }
  return made;
}

/** A route that changes the setup, by who may; what it changes is kept with who did it. */
export function change<Schema extends AnySchema>(
  house: House,
  schema: Schema | null,
  work: (context: WriteContext<InferType<Schema>>) => Promise<unknown>,
): RequestHandler {
  return write(house, 'shop.set-up', schema, (context) =>
    keepChanges(house, context.sql, { staffId: context.person.staffId, at: house.clock.now() }, () =>
      work(context),
    ),
  );
}
