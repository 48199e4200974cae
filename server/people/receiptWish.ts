import { RECEIPT_WAYS, type ReceiptWay } from '../../core/people/record.ts';
import type { Writer } from '../db/database.ts';
import { putRecord } from './records.ts';
import { lockRecords, readRecords, setReceiptWay } from './recordStore.ts';

/** Keeps how a customer wants receipts, with where they go, as any other change of what is known of them. */
export async function keepReceiptWish(
  sql: Writer,
  { id, by: before }: { id: number; by: ReceiptWay },
  { by, to }: { by: ReceiptWay; to: string },
  who: { staffId: number; at: Date },
): Promise<void> {
  await lockRecords(sql, [id]);
  const [known] = await readRecords(sql, [id]);
  if (!known) return;
  const { mail, phone } = known.record;
  const record = {
    ...known.record,
    mail: by === 'mail' && to ? to : mail,
    phone: by === 'text' && to ? to : phone,
  };
  const [was, became] = [RECEIPT_WAYS[before], RECEIPT_WAYS[by]];
  await putRecord(sql, known, record, who, was === became ? [] : [{ what: 'Receipts', was, became }]);
  await setReceiptWay(sql, id, by);
}
