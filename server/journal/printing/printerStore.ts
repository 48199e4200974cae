import type { TillPrinter } from '../../../contract/printer.ts';
import { one, type Reader, type Writer } from '../../db/database.ts';
import { STAND_IN, type PrinterSetup } from '../../../core/journal/printerSetup.ts';
import { Problem } from '../../http/problem.ts';

const COLUMNS = `kind, host, port, columns, code_page as "codePage", cutter, pulse, answers`;

/** The printer of the till in sight as JSON; nothing where none was chosen. */
export const CHOSEN_PRINTER = `(select json_build_object('kind', kind, 'host', host, 'port', port, 'columns', columns,
  'codePage', code_page, 'cutter', cutter, 'pulse', pulse, 'answers', answers)
  from till_printer where till_id = till.id)`;

/** The printer of a till. */
export async function printerOf(sql: Reader, tillId: number): Promise<PrinterSetup> {
  const [chosen] = await sql.query<PrinterSetup>(`select ${COLUMNS} from till_printer where till_id = $1`, [
    tillId,
  ]);
  return chosen ?? STAND_IN;
}

/** The printers of all tills, with how much has not come out of each for certain. */
export async function printersOfTills(sql: Reader): Promise<Omit<TillPrinter, 'trouble' | 'seen'>[]> {
  const rows = await sql.query<
    Omit<TillPrinter, 'trouble' | 'seen' | 'setup'> & { setup: PrinterSetup | null }
  >(
    `select till.id as "tillId", till.number, place.name as place,
            ${CHOSEN_PRINTER} as setup,
            (select count(*)::integer from print_job
             where till_id = till.id and state in ('waiting', 'printing', 'doubtful')) as waiting
     from till join place on place.id = till.place_id order by till.number`,
  );
  return rows.map(({ setup, ...till }) => ({ ...till, setup: setup ?? STAND_IN }));
}

/** @throws Problem 404 where there is no such till */
export async function tillIs(sql: Reader, tillId: number): Promise<void> {
  const [till] = await sql.query('select 1 from till where id = $1', [tillId]);
  if (!till) throw new Problem('no-till', 'There is no such till.');
}

/** Chooses the printer of a till; what waits for it comes out there. @throws Problem 404 */
export async function choosePrinter(sql: Writer, tillId: number, setup: PrinterSetup): Promise<void> {
  await tillIs(sql, tillId);
  const { kind, host, port, columns, codePage, cutter, pulse, answers } = setup;
  one(
    await sql.query(
      `insert into till_printer (till_id, kind, host, port, columns, code_page, cutter, pulse, answers)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
       on conflict (till_id) do update
         set kind = excluded.kind, host = excluded.host, port = excluded.port, columns = excluded.columns,
             code_page = excluded.code_page, cutter = excluded.cutter, pulse = excluded.pulse,
             answers = excluded.answers
       returning till_id`,
      [tillId, kind, host, port, columns, codePage, cutter, pulse, answers],
    ),
  );
}
