import { v7 as newId } from 'uuid';
import type { VoidSale, VoidView } from '../../../contract/journal.ts';
import type { Person } from '../../../contract/staff.ts';
import { voidProblem, voidStep } from '../../../core/journal/afterTheSale.ts';
import { onePoint } from '../../../core/words.ts';
import { RAISED, sqlState, type Reader } from '../../db/database.ts';
import { takeLocks } from '../../db/locks.ts';
import type { House } from '../../house.ts';
import { Problem } from '../../http/problem.ts';
import { addTender, findPayment, isOfSale, setTender, type PaymentTender } from '../../tenders/store.ts';
import { approvalFor } from '../../staff/approval.ts';
import * as store from './store.ts';

/**
 * Voids a sale of the open shift of this till: its card payments are taken back without the card, then everything is
 * undone by counter-entries. Asking again goes on where it stands.
 * @throws Problem 409 with why it cannot be voided any more, 403 `countersign-needed`
 */
export async function voidSale(
  house: House,
  person: Person,
  saleId: string,
  wanted: VoidSale,
): Promise<VoidView> {
  const at = house.clock.now();
  const cards = await house.database
    .write(async (sql) => {
      const sale = await store.lockSale(sql, saleId, person.tillId);
      if (!sale) throw new Problem('no-sale', 'There is no such sale.');
      if (sale.voided === 'done') return [];
      const problem = voidProblem(sale);
      if (problem) throw cannot(problem);
      if (sale.voided === null) {
        const countersignId = await approvalFor(sql, person, {
          about: saleId,
          countersign: wanted.countersign,
          right: 'sale.void',
          step: voidStep(sale.total),
          at,
        });
        const { tillId, staffId } = person;
        await store.addVoid(sql, {
          saleId,
          reason: wanted.reason,
          tillId,
          shiftId: sale.shiftId,
          staffId,
          countersignId,
          at,
        });
      }
      const open = await store.cardsToTakeBack(sql, saleId);
      if (open.some(({ refund, settled }) => refund && settled)) {
        throw cannot('Its refund to a card was settled with the bank. Ring the goods up again instead.');
      }
      if (open.length === 0) {
        await store.finishVoid(sql, saleId, person.staffId, at);
        return [];
      }
      const used = await store.freezeSoldValue(sql, saleId);
      if (used) throw cannot(`${used} was used meanwhile.`);
      const approved = open.filter(({ state }) => state === 'approved');
      for (const { id } of approved)
        await setTender(sql, id, { state: 'undoing', words: onePoint(`Voided by ${person.name}.`), at });
      return approved;
    })
    .catch((error: unknown) => {
      if (sqlState(error) === RAISED.cannotVoid) throw cannot((error as Error).message);
      throw error;
    });
  if (cards.length === 0) tellOfVoid(house, person.tillId, saleId);
  for (const { id } of cards) await house.terminals.sendBack(id);
  await finishVoid(house, saleId);
  return voidView(house, saleId);
}

const cannot = (why: string): Problem =>
  new Problem('cannot-void', 'This sale cannot be voided.', { detail: why });

async function voidView({ database }: House, saleId: string): Promise<VoidView> {
  const found = await database.ask((sql) => store.findVoid(sql, saleId));
  return { state: found?.state ?? null };
}

/**
 * The terminal does not take a payment back, as after its settlement, though the sale is voided or the till went on
 * without it: the money is refunded to the card instead.
 */
export async function refundInstead(house: House, tender: PaymentTender, why: string): Promise<void> {
  const { database, clock, log } = house;
  const { basketId, token, terminalId, typeId, tip } = tender;
  if (tender.refund || token === null) return;
  const id = newId();
  const added = await database.write(async (sql) => {
    await takeLocks(sql, { payments: [basketId] });
    const payment = await findPayment(sql, basketId);
    const found = await store.findVoid(sql, basketId);
    const voided = found?.state === 'begun';
    if (payment?.state !== 'finished' || (found && !voided)) return false;
    const card = voided
      ? (await store.cardsToTakeBack(sql, basketId)).find((one) => one.id === tender.id)
      : undefined;
    if (voided ? !card : await isOfSale(sql, tender.id)) return false;
    const amount = tender.amount + tip + tender.roundUp;
    await addTender(sql, {
      id,
      basketId,
      typeId,
      state: 'stored',
      amount,
      handed: amount,
      reference: '',
      foreignAmount: null,
      storedValueId: null,
      terminalId,
      notPresent: false,
      askRoundUp: false,
      cardOnFileId: null,
      token,
      staffId: found?.staffId ?? payment.staffId,
      at: clock.now(),
      refund: true,
      refunds: card ? { saleId: basketId, position: card.position } : null,
      sendsBack: card ? null : tender.id,
    });
    return true;
  });
  if (!added) return;
  log.info({ saleId: basketId, why }, 'a card payment is refunded instead of being taken back');
  await house.terminals.begin(id);
}

/** Finishes a void once all card payments have gone back. Nothing happens where none was begun. */
export async function finishVoid(house: House, saleId: string): Promise<void> {
  const { database, clock, log } = house;
  const ready = await database.ask(async (sql) => {
    const found = await store.findVoid(sql, saleId);
    return found?.state === 'begun' && (await store.allTakenBack(sql, saleId)) ? found : null;
  });
  if (!ready) return;
  try {
    await database.write((sql) => store.finishVoid(sql, saleId, ready.staffId, clock.now()));
  } catch (error) {
    if (sqlState(error) !== RAISED.cannotVoid) throw error;
    log.warn({ saleId, err: error }, 'a sale could not be voided');
    throw cannot((error as Error).message);
  }
  tellOfVoid(house, ready.tillId, saleId);
}

function tellOfVoid({ printing, events }: House, tillId: number, saleId: string): void {
  printing.wake();
  events.tell({ kind: 'sale-voided', tillId, saleId });
  events.tell({ kind: 'drawer-changed', tillId });
  events.tell({ kind: 'catalogue-changed' });
  events.tell({ kind: 'promises-changed' });
}

/** Voids that were begun and are not finished, after a restart. */
export const openVoids = (sql: Reader): Promise<string[]> => store.openVoidIds(sql);
