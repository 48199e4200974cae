import { defineStore } from 'pinia';
import type { CustomerGroup, WantedGroup } from '../../contract/people.ts';
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** Groups of customers. */
export const useGroupStore = defineStore('customerGroups', () => {
  const [groups, showGroups] = shown<CustomerGroup[]>([]);

  async function load(): Promise<void> {
    await showGroups(read<CustomerGroup[]>('/people/groups'));
  }

  async function save(id: number | null, group: WantedGroup): Promise<void> {
    if (id === null) await write('POST', '/people/groups', group);
    else await write('PUT', `/people/groups/${id}`, group);
    await load();
  }

  async function drop(id: number): Promise<void> {
    await write('DELETE', `/people/groups/${id}`);
    await load();
  }

  return { groups, load, save, drop };
});
