import type { Writer } from '../db/database.ts';
import { fillGroup, groupsToFill, noteMoved } from './groupStore.ts';

/** Follows the rules that were not followed on a day yet. @returns how many came or went */
export async function fillAll(sql: Writer, today: string, at: Date): Promise<number> {
  let changed = 0;
  for (const group of await groupsToFill(sql, today)) {
    const moved = await fillGroup(sql, group, today);
    if (moved.length > 0) await noteMoved(sql, group.name, moved, at);
    changed += moved.length;
  }
  return changed;
}
