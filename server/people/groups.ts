import { counted } from '../../core/locale.ts';
import { shopToday } from '../shop/store.ts';
import type { ChangedGroup, WantedGroup } from '../../contract/people.ts';
import type { Writer } from '../db/database.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { fillAll } from './groupsFilling.ts';
import * as store from './groupStore.ts';

/** Makes a group; one with a rule fills itself at once. @throws Problem 422 where the name is taken */
export async function addGroup(sql: Writer, group: WantedGroup, at: Date): Promise<{ id: number }> {
  await checkName(sql, group.name, 0);
  const id = await store.addGroup(sql, group);
  await fillAll(sql, await shopToday(sql, at), at);
  return { id };
}

/** Changes a group. @throws Problem 404, 409, 422 where the name is taken */
export async function changeGroup(
  sql: Writer,
  id: number,
  { seen, ...group }: ChangedGroup,
  at: Date,
): Promise<void> {
  const kept = await store.takeGroup(sql, id);
  if (!kept) throw noGroup();
  const { name, rule } = seen;
  if (kept.name !== name || kept.spent !== (rule?.spent ?? null) || kept.months !== (rule?.months ?? null))
    throw changedMeanwhile();
  await checkName(sql, group.name, id);
  await store.putGroup(sql, id, group);
  await fillAll(sql, await shopToday(sql, at), at);
}

/** Takes a group away that nothing stands on. @throws Problem 404, 409 */
export async function dropGroup(sql: Writer, id: number): Promise<void> {
  const group = await store.takeGroup(sql, id);
  if (!group) throw noGroup();
  const { offers, presets, prices } = await store.usesOfGroup(sql, id);
  const uses = [
    ...offers.map((name) => `The offer “${name}” is for it.`),
    ...presets.map((name) => `The discount “${name}” is for it.`),
    ...(prices > 0 ? [`It has prices of its own for ${counted(prices, 'item')}.`] : []),
  ];
  if (uses.length > 0)
    throw new Problem('group-in-use', `${group.name} is in use.`, { detail: uses.join(' ') });
  await store.dropGroup(sql, id);
}

const noGroup = () => new Problem('no-group', 'There is no such group any more.');

async function checkName(sql: Writer, name: string, except: number): Promise<void> {
  if (await store.isGroupName(sql, name, except))
    throw fieldProblem('name', 'A group has this name already.');
}
