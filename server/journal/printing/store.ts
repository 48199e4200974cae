import type { PrintKind } from '../../../core/journal/paper.ts';
import { STAND_IN, type PrinterSetup } from '../../../core/journal/printerSetup.ts';
import type { Reader, Writer } from '../../db/database.ts';
import { CHOSEN_PRINTER } from './printerStore.ts';

export interface PrintJob {
  id: number;
  tillId: number;
  tillNumber: number;
  kind: PrintKind;
  saleId: string | null;
  shiftId: number | null;
  heldId: string | null;
  openingId: string | null;
  cashMoveId: string | null;
  storedValueId: number | null;
  handoverId: string | null;
  promiseId: string | null;
  openDrawer: boolean;
}

export async function addPrintJob(
  sql: Writer,
  job: {
    tillId: number;
    kind: PrintJob['kind'];
    saleId?: string;
    shiftId?: number;
    heldId?: string;
    openingId?: string;
    cashMoveId?: string;
    paymentTenderId?: string;
    handoverId?: string;
    promiseId?: string;
    openDrawer?: boolean;
    at: Date;
  },
): Promise<void> {
  await sql.query(
    `insert into print_job (till_id, kind, sale_id, shift_id, held_id, opening_id, cash_move_id, open_drawer,
      asked_at, payment_tender_id, handover_id, promise_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
    [
      job.tillId,
      job.kind,
      job.saleId ?? null,
      job.shiftId ?? null,
      job.heldId ?? null,
      job.openingId ?? null,
      job.cashMoveId ?? null,
      job.openDrawer ?? false,
      job.at.toISOString(),
      job.paymentTenderId ?? null,
      job.handoverId ?? null,
      job.promiseId ?? null,
    ],
  );
}

/** Tills that something waits for. */
export async function tillsThatWait(sql: Reader): Promise<number[]> {
  const rows = await sql.query<{ tillId: number }>(
    `select distinct till_id as "tillId" from print_job where state = 'waiting' order by till_id`,
  );
  return rows.map(({ tillId }) => tillId);
}

/** What a till's printer does next, with that printer. */
export async function nextJob(
  sql: Reader,
  tillId: number,
): Promise<(PrintJob & { setup: PrinterSetup }) | undefined> {
  const [job] = await sql.query<PrintJob & { setup: PrinterSetup | null }>(
    `select print_job.id, till_id as "tillId", till.number as "tillNumber", kind, sale_id as "saleId",
            shift_id as "shiftId", held_id as "heldId", opening_id as "openingId", cash_move_id as "cashMoveId",
            stored_value_id as "storedValueId", handover_id as "handoverId", print_job.promise_id as "promiseId",
            open_drawer as "openDrawer", ${CHOSEN_PRINTER} as setup
     from print_job join till on till.id = print_job.till_id
     where state = 'waiting' and till_id = $1 order by print_job.id limit 1`,
    [tillId],
  );
  return job && { ...job, setup: job.setup ?? STAND_IN };
}

/** A paper is about to begin: from now on only the printer knows. */
export async function markPrinting(sql: Writer, jobId: number): Promise<void> {
  await sql.query("update print_job set state = 'printing' where id = $1", [jobId]);
}

/** In one statement, which needs no transaction around it. */
export async function markPrinted(sql: Reader, jobId: number, at: Date): Promise<void> {
  await sql.query("update print_job set state = 'printed', printed_at = $2 where id = $1", [
    jobId,
    at.toISOString(),
  ]);
}

/** The printer fell silent while a paper came out; a drawer that may have opened is not opened again. */
export async function markDoubtful(sql: Writer, jobId: number): Promise<void> {
  await sql.query(
    `update print_job set state = case kind when 'drawer-only' then 'dropped' else 'doubtful' end where id = $1`,
    [jobId],
  );
}

/** Papers that were coming out when the server ended are in doubt. */
export async function doubtWhatWasPrinting(sql: Writer): Promise<void> {
  await sql.query(
    `update print_job set state = case kind when 'drawer-only' then 'dropped' else 'doubtful' end
     where state = 'printing'`,
  );
}

export interface OpenJob {
  id: number;
  kind: PrintJob['kind'];
  state: 'waiting' | 'printing' | 'doubtful';
  /** Of a sale's papers, its number at its till. */
  saleNumber: number | null;
  saleTill: number | null;
  askedAt: string;
}

/** What has not come out of a till's printer for certain, oldest first. */
export function openJobs(sql: Reader, tillId: number): Promise<OpenJob[]> {
  return sql.query<OpenJob>(
    `select print_job.id, print_job.kind, print_job.state, print_job.asked_at as "askedAt",
            sale.number as "saleNumber", till.number as "saleTill"
     from print_job left join sale on sale.id = print_job.sale_id left join till on till.id = sale.till_id
     where print_job.till_id = $1 and print_job.state in ('waiting', 'printing', 'doubtful') order by print_job.id`,
    [tillId],
  );
}

/**
 * What a person says of a paper that is in doubt, or of one that waits: it came out, it is wanted (again), or
 * nobody needs it any more. The drawer is not opened by a paper that is printed again.
 * @returns whether there was such a paper
 */
export async function settleJob(
  sql: Writer,
  { tillId, jobId, as, at }: { tillId: number; jobId: number; as: 'printed' | 'again' | 'dropped'; at: Date },
): Promise<boolean> {
  const settled = await sql.query(
    `update print_job
     set state = case $3 when 'again' then 'waiting' else $3 end,
         printed_at = case $3 when 'printed' then $4::timestamptz end,
         open_drawer = open_drawer and $3 <> 'again'
     where id = $1 and till_id = $2 and (state = 'doubtful' or (state = 'waiting' and $3 = 'dropped'))
     returning id`,
    [jobId, tillId, as, at.toISOString()],
  );
  return settled.length > 0;
}
