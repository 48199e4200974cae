import { MOST_OF_SUPPLIER, type SupplierPage, type WantedSupplier } from '../../contract/supply.ts';
import { reliability } from '../../core/supply/purchaseOrder.ts';
import type { Reader, Writer } from '../db/database.ts';
import { fieldProblem, formChangedMeanwhile, Problem } from '../http/problem.ts';
import { listDeliveries, listOrders } from './orderStore.ts';
import * as store from './supplierStore.ts';

/** @throws Problem 404 */
export async function supplierPage(sql: Reader, id: number): Promise<SupplierPage> {
  const found = await store.findSupplier(sql, id);
  if (!found) throw new Problem('no-supplier', 'There is no such supplier.');
  return {
    ...found,
    items: await store.itemsOfSupplier(sql, id),
    orders: await listOrders(sql, { supplierId: id }, { most: MOST_OF_SUPPLIER }),
    deliveries: await listDeliveries(sql, { supplierId: id }, { most: MOST_OF_SUPPLIER }),
    reliability: reliability(await store.pastOrders(sql, id)),
    ...(await store.owedTo(sql, id)),
  };
}

/** Adds a supplier. @throws Problem 422 where one is called so */
export async function addSupplier(sql: Writer, wanted: WantedSupplier, at: Date): Promise<{ id: number }> {
  await freeName(sql, wanted.name, undefined);
  return { id: await store.addSupplier(sql, wanted, at) };
}

/** @throws Problem 404, 409, 422 */
export async function changeSupplier(
  sql: Writer,
  id: number,
  { supplier, version }: { supplier: WantedSupplier; version: number },
): Promise<void> {
  if (!(await store.findSupplier(sql, id))) throw new Problem('no-supplier', 'There is no such supplier.');
  await freeName(sql, supplier.name, id);
  if (!(await store.putSupplier(sql, id, supplier, version))) throw formChangedMeanwhile();
}

async function freeName(sql: Reader, name: string, mine: number | undefined): Promise<void> {
  const other = await store.supplierNamed(sql, name);
  if (other !== undefined && other !== mine) throw fieldProblem('name', 'There is a supplier of this name.');
}
