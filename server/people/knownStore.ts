import type { Reader } from '../db/database.ts';

/** A sale as it is told to whom it was for. */
export interface KnownSale {
  number: string;
  at: string;
  total: number;
  lines: string[];
}

/** All that somebody ever bought or brought back, newest first. */
export async function salesOf(sql: Reader, id: number): Promise<KnownSale[]> {
  const rows = await sql.query<KnownSale>(
    `select receipt_number(till.number, sale.number) as number, finished_at as at, total,
       coalesce((select json_agg(trim_scale(quantity / 1000.0) || ' ' || name order by position)
         from sale_line where sale_id = sale.id), '[]'::json) as lines
     from sale join till on till.id = sale.till_id
     where customer_id = any (one_person($1)) order by finished_at desc, sale.id`,
    [id],
  );
  return rows.map((row) => ({ ...row, at: new Date(row.at).toISOString() }));
}
