import type { StockByHand } from '../../contract/goods.ts';
import type { Person } from '../../contract/staff.ts';
import { BY_HAND } from '../../core/goods/stockReasons.ts';
import { multiplyDivide, type Money } from '../../core/money.ts';
import { decimalsProblem, ONE } from '../../core/quantity.ts';
import type { Writer } from '../db/database.ts';
import { fieldProblem } from '../http/problem.ts';
import { listPlaces } from '../shop/store.ts';
import { costsOf } from './layerStore.ts';
import { noItem } from './items.ts';
import { lockItems, readItems } from './recordStore.ts';
import { approveStock, noteApproval } from './stockLimit.ts';
import { moveByHand, putSerials, serialsAt, type SerialUnit } from './stockStore.ts';

/**
 * Puts stock right by hand: what was found, is missing, broke. @throws Problem 403 above the limit of the role, 404,
 * 422 next to what is wrong
 */
export async function putStockRight(
  sql: Writer,
  id: number,
  wanted: StockByHand,
  person: Person,
  at: Date,
): Promise<void> {
  await lockItems(sql, [id]);
  const [item] = await readItems(sql, [id]);
  if (!item) throw noItem();
  const { record } = item;
  if (!record.stocked) throw fieldProblem('quantity', `${record.name} is not kept in stock.`);
  if (!(await listPlaces(sql)).some((place) => place.id === wanted.placeId))
    throw fieldProblem('placeId', 'There is no such place.');
  const odd = decimalsProblem(wanted.quantity, record.decimals);
  if (odd) throw fieldProblem('quantity', odd);
  const { placeId, quantity } = wanted;
  const { sign } = BY_HAND[wanted.reason];
  const unitCost = wanted.unitCost ?? record.cost;
  const cost = sign > 0 && unitCost !== null ? multiplyDivide(unitCost, quantity, ONE) : null;
  const serials = record.serials ? await wantedUnits(sql, id, wanted, sign) : [];
  const approval = await approveStock(
    sql,
    person,
    {
      subject: `stock:${id}:${placeId}:${wanted.reason}`,
      quantity,
      cost: cost ?? (await worthOf(sql, id, placeId, sign * quantity)),
    },
    { approval: wanted.approval, at },
  );
  if (sign > 0) await putSerials(sql, id, serials, placeId);
  const move = { ...wanted, itemId: id, quantity, cost, serials };
  await noteApproval(sql, await moveByHand(sql, move, { staffId: person.staffId, at }), approval);
  if (sign < 0) await putSerials(sql, id, serials, null);
}

/** What goods are worth that come or go, as far as it is known. */
async function worthOf(sql: Writer, itemId: number, placeId: number, difference: number): Promise<Money> {
  const [worth] = await costsOf(sql, placeId, [{ itemId, difference }]);
  return Math.abs(worth?.cost ?? 0);
}

/** Units with serial numbers come and go by their numbers. */
async function wantedUnits(
  sql: Writer,
  itemId: number,
  { placeId, quantity, serials }: StockByHand,
  sign: 1 | -1,
): Promise<string[]> {
  const units = [...new Set(serials)];
  if (units.length * ONE !== quantity)
    throw fieldProblem('serials', 'Each unit has its serial number: say as many as there are units.');
  const known = await serialsAt(sql, itemId, units);
  for (const serial of units) {
    const unit = known.find((one) => one.serial === serial);
    const problem = sign > 0 ? comesProblem(unit) : goesProblem(unit, placeId);
    if (problem) throw fieldProblem('serials', `${serial} ${problem}`);
  }
  return units;
}

const comesProblem = (unit: SerialUnit | undefined): string | null => {
  if (!unit) return null;
  return unit.sold ? 'was sold: it comes back with its receipt.' : 'is in stock already.';
};

const goesProblem = (unit: SerialUnit | undefined, placeId: number): string | null => {
  if (!unit || unit.sold || unit.placeId !== placeId) return 'is not in stock there.';
  return unit.promised ? 'is set aside for somebody.' : null;
};
