import { customerWords } from '../../core/people/customer.ts';
import { fold } from '../../core/words.ts';
import type { Database } from '../db/database.ts';
import { customersWithMarks, putWords } from './foldedWordStore.ts';

/**
 * Words by which customers are found and names by which they are sorted are kept beside them: those with letters
 * beyond plain ones follow how letters are read now.
 */
export async function refoldWords(database: Database): Promise<void> {
  await database.write(async (sql) => {
    const rows = await customersWithMarks(sql);
    for (const { words, sortName, id, ...facts } of rows) {
      const [now, sorts] = [customerWords(facts), fold(facts.name)];
      if (now !== words || sorts !== sortName) await putWords(sql, id, now, sorts);
    }
  });
}
