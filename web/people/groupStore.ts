import { defineStore } from 'pinia';
import { computed } from 'vue';
import type { CustomerGroup, WantedGroup } from '../../contract/people.ts';
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';

/** Groups of customers. */
export const useGroupStore = defineStore('customerGroups', () => {
  /** As they were read; nothing before that. */
  const [listed, showGroups] = shown<CustomerGroup[] | null>(null);
  const groups = computed(() => listed.value ?? []);

  async function load(): Promise<void> {
    await showGroups(read<CustomerGroup[]>('/people/groups'));
  }

  /** Keeps a group. @param seen the one that is changed, as it was looked at; nothing for a new one */
  async function save(seen: CustomerGroup | null, group: WantedGroup): Promise<void> {
    const { id, name, rule } = seen ?? { id: null };
    const work =
      id === null
        ? write('POST', '/people/groups', group)
        : write('PUT', `/people/groups/${id}`, { ...group, seen: { name, rule } });
    // However it ends: what another one has changed is there to be looked at.
    await work.finally(load);
  }

  async function drop(id: number): Promise<void> {
    await write('DELETE', `/people/groups/${id}`);
    await load();
  }

  return { listed, groups, load, save, drop };
});
