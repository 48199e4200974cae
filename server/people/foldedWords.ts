import { customerWords } from '../../core/people/customer.ts';
import { fold } from '../../core/words.ts';
import type { Database } from '../db/database.ts';

interface Row {
  id: number;
  name: string;
  company: string;
  phone: string;
  mail: string;
  words: string;
  sortName: string;
}

/** Words by which customers are found and names by which they are sorted are kept beside them: those with letters beyond plain ones follow how letters are read now. */
export async function refoldWords(database: Database): Promise<void> {
  await database.write(async (sql) => {
    const rows = await sql.query<Row>(
      `select id, name, company, phone, mail, words, sort_name as "sortName" from customer where name || company ~ '[^ -~]'`,
    );
    for (const { words, sortName, id, ...facts } of rows) {
      const [now, sorts] = [customerWords(facts), fold(facts.name)];
      if (now !== words || sorts !== sortName)
        await sql.query('update customer set words = $2, sort_name = $3 where id = $1', [id, now, sorts]);
    }
  });
}
