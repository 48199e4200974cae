import type { Reader, Writer } from '../db/database.ts';

export interface NamedCustomer {
  id: number;
  name: string;
  company: string;
  phone: string;
  mail: string;
  words: string;
  sortName: string;
}

/** Customers whose names have letters beyond plain ones. */
export const customersWithMarks = (sql: Reader): Promise<NamedCustomer[]> =>
  sql.query<NamedCustomer>(
    `select id, name, company, phone, mail, words, sort_name as "sortName" from customer
      where name || company ~ '[^ -~]'`,
  );

export async function putWords(sql: Writer, id: number, words: string, sortName: string): Promise<void> {
  await sql.query('update customer set words = $2, sort_name = $3 where id = $1', [id, words, sortName]);
}
