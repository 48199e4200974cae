import { overdueOf, reminderDue } from '../../core/people/accountAge.ts';
import type { Writer } from '../db/database.ts';
import { addMessage } from '../outbox/store.ts';
import { takeLocks } from '../db/locks.ts';
import { listAccounts } from './accountListStore.ts';
import * as store from './accountStore.ts';

/** What came of reminding. */
export interface Reminded {
  sent: number;
  /** Of whom no mail address is known. */
  unreachable: string[];
}

/**
 * Reminds those whose house accounts are overdue, each as firmly as it is time for, never twice for the same day and
 * step.
 * @param accountId of one only; `null` for all
 */
export async function remind(
  sql: Writer,
  accountId: number | null,
  today: string,
  at: Date,
): Promise<Reminded> {
  const { reminders } = await store.readAccountRules(sql);
  const listed = await listAccounts(sql, { find: '', show: 'overdue', page: 0 }, today, true);
  const wanted = listed.filter(({ id }) => accountId === null || id === accountId);
  await takeLocks(sql, { accounts: wanted.map(({ id }) => id) });
  const open = store.byAccount(
    await store.openItems(
      sql,
      wanted.map(({ id }) => id),
    ),
  );
  const done: Reminded = { sent: 0, unreachable: [] };
  for (const { id, name, mail } of wanted) {
    const items = open.get(id) ?? [];
    const step = reminderDue(items, await store.remindersOf(sql, id), reminders, today);
    if (step === null) continue;
    if (!mail) {
      done.unreachable.push(name);
      continue;
    }
    const amount = overdueOf(items, today);
    if (!(await store.addReminder(sql, { accountId: id, step, day: today, amount, at }))) continue;
    await addMessage(sql, {
      kind: 'mail',
      recipient: mail,
      subject: step === 1 ? 'A reminder' : `Reminder ${step}`,
      saleId: null,
      storedValueId: null,
      accountId: id,
      about: { kind: 'reminder', step, day: today },
      at,
    });
    done.sent += 1;
  }
  return done;
}
