import { correctCostSchema, itemSupplierSchema, type WantedReorder } from '../../contract/supply.ts';
import type { InferType } from '../../contract/yup.ts';
import type { Writer } from '../db/database.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { correctLayers } from './deliveryStore.ts';
import * as store from './itemSupplyStore.ts';
import { findSupplier } from './supplierStore.ts';

/** Says how an item comes from a supplier. @throws Problem 422 */
export async function putSource(
  sql: Writer,
  itemId: number,
  wanted: InferType<typeof itemSupplierSchema>,
): Promise<void> {
  if (!(await findSupplier(sql, wanted.supplierId))) throw fieldProblem('supplierId', 'From whom?');
  await store.putItemSupplier(sql, itemId, wanted);
}

/** Says when an item is ordered again for a place, and up to how much. @throws Problem 409, 422 */
export async function putReorder(
  sql: Writer,
  itemId: number,
  { placeId, point, target, seen }: WantedReorder,
): Promise<void> {
  const kept = await store.holdReorder(sql, itemId, placeId);
  if (kept.point !== seen.point || kept.target !== seen.target) throw changedMeanwhile();
  if (point === null && target === null) return store.putReorder(sql, itemId, placeId, null);
  if (point === null) throw fieldProblem('point', 'Below how much?');
  if (target === null) throw fieldProblem('target', 'Up to how much?');
  if (target < point) throw fieldProblem('target', 'Up to no less than that.');
  await store.putReorder(sql, itemId, placeId, { point, target });
}

/** What a layer turns out to have cost. @throws Problem 404, 409 */
export async function correctCost(
  sql: Writer,
  layerId: number,
  { cost, was, why }: InferType<typeof correctCostSchema>,
  by: { staffId: number; at: Date },
): Promise<{ itemId: number }> {
  const held = await store.holdLayer(sql, layerId);
  if (!held) throw new Problem('no-delivery', 'These goods are not known.');
  if (held.cost !== was) throw changedMeanwhile();
  await correctLayers(sql, null, [{ layerId, cost }], why, by);
  return { itemId: held.itemId };
}
