import { LIST_PAGE, type ListQuery } from '../../contract/listQuery.ts';
import type { Arrived, TransferView, TransfersPage, WantedTransfer } from '../../contract/transfers.ts';
import { decimalsProblem, ONE } from '../../core/quantity.ts';
import type { Reader, Writer } from '../db/database.ts';
import { readItems } from '../goods/recordStore.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { listPlaces } from '../shop/store.ts';
import * as store from './transferStore.ts';

interface By {
  staffId: number;
  at: Date;
}

const noTransfer = (): Problem => new Problem('no-transfer', 'There is no such transfer.');

/** One page of those that fit, the open ones first. */
export async function transfersPage(
  sql: Reader,
  { find, page }: ListQuery,
  placeId: number,
): Promise<TransfersPage> {
  return {
    transfers: await store.listTransfers(sql, { find }, { most: LIST_PAGE, from: page * LIST_PAGE }),
    count: await store.countTransfers(sql, find),
    places: (await listPlaces(sql)).map(({ id, name }) => ({ id, name, here: id === placeId })),
  };
}

/** @throws Problem 404 */
export async function transferView(sql: Reader, id: number): Promise<TransferView> {
  const [found] = await store.listTransfers(sql, { id }, { most: 1, from: 0 });
  if (!found) throw noTransfer();
  return found;
}

/** Asks for goods from another place. @throws Problem 422 next to what is wrong */
export async function askFor(sql: Writer, wanted: WantedTransfer, by: By): Promise<TransferView> {
  const places = (await listPlaces(sql)).map(({ id }) => id);
  if (!places.includes(wanted.fromPlace)) throw fieldProblem('fromPlace', 'From where?');
  if (!places.includes(wanted.toPlace)) throw fieldProblem('toPlace', 'To where?');
  if (wanted.toPlace === wanted.fromPlace) throw fieldProblem('toPlace', 'To another place.');
  const ids = wanted.lines.map(({ itemId }) => itemId);
  if (new Set(ids).size < ids.length) throw fieldProblem('lines', 'An item stands there twice.');
  const items = new Map((await readItems(sql, ids)).map((item) => [item.id, item.record]));
  for (const [at, { itemId, quantity, serials }] of wanted.lines.entries()) {
    const item = items.get(itemId);
    if (!item?.stocked) throw fieldProblem(`lines[${at}].quantity`, 'It is not kept in stock.');
    const odd = decimalsProblem(quantity, item.decimals);
    if (odd) throw fieldProblem(`lines[${at}].quantity`, odd);
    if (item.serials && new Set(serials).size * ONE !== quantity)
      throw fieldProblem(`lines[${at}].serials`, `${item.name}: scan the serial number of each unit.`);
  }
  return transferView(sql, await store.addTransfer(sql, wanted, by));
}

async function held(sql: Writer, id: number, version: number, state: TransferView['state']) {
  const found = await store.holdTransfer(sql, id);
  if (!found) throw noTransfer();
  if (found.version !== version || found.state !== state) throw changedMeanwhile();
  return found;
}

/** The goods leave: from now on they are on the way. @throws Problem 404, 409, 422 */
export async function send(sql: Writer, id: number, version: number, by: By): Promise<TransferView> {
  const { fromPlace } = await held(sql, id, version, 'asked');
  const { lines } = await transferView(sql, id);
  for (const { itemId, name, serials } of lines) {
    if (serials.length === 0) continue;
    const free = await store.freeUnits(sql, itemId, fromPlace, serials);
    const gone = serials.find((serial) => !free.includes(serial));
    if (gone) throw fieldProblem('lines', `${name} ${gone} is not there any more.`);
  }
  await store.send(sql, id, by);
  return transferView(sql, id);
}

/** The goods are there; what did not come is missing. @throws Problem 404, 409, 422 */
export async function takeIn(
  sql: Writer,
  id: number,
  { version, lines }: Arrived,
  by: By,
): Promise<TransferView> {
  await held(sql, id, version, 'sent');
  const sent = (await transferView(sql, id)).lines;
  if (lines.length !== sent.length) throw fieldProblem('lines', 'How many came?');
  for (const [at, line] of sent.entries()) {
    const came = lines[at] ?? 0;
    if (came > line.quantity) throw fieldProblem(`lines[${at}]`, 'No more can come than was sent.');
    if (line.serials.length > 0 && came !== line.quantity)
      throw fieldProblem(
        `lines[${at}]`,
        'Units with serial numbers come whole; what is missing is put right after.',
      );
    const odd = decimalsProblem(came, line.decimals);
    if (odd) throw fieldProblem(`lines[${at}]`, odd);
  }
  await store.takeIn(sql, id, lines, by);
  return transferView(sql, id);
}

/** Nobody sends it. @throws Problem 404, 409 */
export async function cancel(sql: Writer, id: number, version: number): Promise<TransferView> {
  await held(sql, id, version, 'asked');
  await store.cancel(sql, id);
  return transferView(sql, id);
}
