import { customerWords } from '../../core/people/customer.ts';
import type { Database } from '../db/database.ts';

interface Row {
  id: number;
  name: string;
  company: string;
  phone: string;
  mail: string;
  words: string;
}

/** Words by which customers are found are kept beside them: those with letters beyond plain ones follow how letters are read now. */
export async function refoldWords(database: Database): Promise<void> {
  await database.write(async (sql) => {
    const rows = await sql.query<Row>(
      `select id, name, company, phone, mail, words from customer where name || company ~ '[^ -~]'`,
    );
    for (const { words, id, ...facts } of rows) {
      const now = customerWords(facts);
      if (now !== words) await sql.query('update customer set words = $2 where id = $1', [id, now]);
    }
  });
}
