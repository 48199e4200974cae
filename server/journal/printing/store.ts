import type { Reader, Writer } from '../../db/database.ts';

export interface PrintJob {
  id: number;
  tillId: number;
  tillNumber: number;
  kind:
    | 'receipt'
    | 'copy'
    | 'gift-receipt'
    | 'shift-report'
    | 'hold-ticket'
    | 'drawer-opening'
    | 'cash-slip'
    | 'drawer-only'
    | 'gift-card'
    | 'void-slip'
    | 'handover-slip';
  saleId: string | null;
  shiftId: number | null;
  heldId: string | null;
  openingId: string | null;
  cashMoveId: string | null;
  storedValueId: number | null;
  handoverId: string | null;
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
    openDrawer?: boolean;
    at: Date;
  },
): Promise<void> {
  await sql.query(
    `insert into print_job (till_id, kind, sale_id, shift_id, held_id, opening_id, cash_move_id, open_drawer, asked_at, payment_tender_id, handover_id)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
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
    ],
  );
}

export function waitingJobs(sql: Reader, most: number): Promise<PrintJob[]> {
  return sql.query<PrintJob>(
    `select print_job.id, till_id as "tillId", till.number as "tillNumber", kind, sale_id as "saleId",
            shift_id as "shiftId", held_id as "heldId", opening_id as "openingId", cash_move_id as "cashMoveId",
            stored_value_id as "storedValueId", handover_id as "handoverId", open_drawer as "openDrawer"
     from print_job join till on till.id = print_job.till_id
     where state = 'waiting' order by print_job.id limit $1`,
    [most],
  );
}

export async function markPrinted(sql: Reader, jobId: number, at: Date): Promise<void> {
  await sql.query("update print_job set state = 'printed', printed_at = $2 where id = $1", [
    jobId,
    at.toISOString(),
  ]);
}
