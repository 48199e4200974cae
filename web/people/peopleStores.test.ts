import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ImportView } from '../../contract/imports.ts';
import type { CustomerPage } from '../../contract/people.ts';
import { useCustomerPageStore } from './customerPageStore.ts';
import { useDirectoryStore } from './directoryStore.ts';
import { useImportStore } from '../imports/importStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), sendFile: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const pageOf = (id: number, name = `Customer ${id}`) =>
  ({ panel: { id }, record: { name }, version: 3, cards: [] }) as unknown as CustomerPage;
const listOf = (id: string, state: ImportView['state']) => ({ id, state }) as ImportView;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.write, net.sendFile]) one.mockReset();
});

describe('the directory', () => {
  it('asks for what narrows it and nothing else, and is widened at once', async () => {
    const people = useDirectoryStore();
    net.read.mockResolvedValue({ rows: [], count: 0 });
    expect(people.narrowed).toBe(false);
    Object.assign(people.filter, { find: 'mo', group: 2, owes: 'yes', pointsFrom: '5' });
    people.page = 3;
    await people.load();
    expect(net.read).toHaveBeenCalledWith(
      '/people/directory?find=mo&group=2&owes=yes&pointsFrom=5&sort=name&page=3',
    );
    expect(people.narrowed).toBe(true);
    people.widen();
    expect([people.narrowed, people.filter.find, people.filter.group]).toEqual([false, '', 0]);
  });

  it('shows what was asked for last, whatever comes first', async () => {
    const people = useDirectoryStore();
    const [first, second] = [late<object>(), late<object>()];
    net.read.mockReturnValueOnce(first.promise).mockReturnValueOnce(second.promise);
    const both = [people.load(), people.load()];
    second.come({ count: 2 });
    first.come({ count: 1 });
    await Promise.all(both);
    expect(people.listed).toMatchObject({ count: 2 });
  });

  it('is read again when somebody was changed', async () => {
    const people = useDirectoryStore();
    people.follow();
    tell({ kind: 'sale-finished' });
    expect(net.read).not.toHaveBeenCalled();
    net.read.mockResolvedValue({ count: 3 });
    tell({ kind: 'people-changed' });
    await eventually(() => expect(people.listed).toMatchObject({ count: 3 }));
  });
});

describe("a customer's page", () => {
  it('is read again when somebody changes them, and not when others are changed', async () => {
    const pages = useCustomerPageStore();
    net.read.mockResolvedValue(pageOf(4));
    await pages.load(4);
    pages.follow();
    tell({ kind: 'people-changed', customerId: 5 });
    expect(net.read).toHaveBeenCalledTimes(1);
    net.read.mockResolvedValue(pageOf(4, 'Another name'));
    tell({ kind: 'people-changed', customerId: 4 });
    tell({ kind: 'people-changed', customerId: null });
    await eventually(() => expect(pages.page?.record.name).toBe('Another name'));
    expect(net.read).toHaveBeenCalledTimes(3);
  });

  it('is saved as it was looked at, merged with both versions, and gone once they are forgotten', async () => {
    const pages = useCustomerPageStore();
    const looked = pageOf(4);
    net.write.mockResolvedValue(pageOf(4));
    await pages.save(looked, looked.record);
    expect(net.write).toHaveBeenLastCalledWith('PUT', '/people/customers/4', {
      record: looked.record,
      version: 3,
    });
    await pages.merge(looked, { ...pageOf(9), version: 7 }, looked.record);
    expect(net.write).toHaveBeenLastCalledWith(
      'POST',
      '/people/customers/4/merge',
      expect.objectContaining({ goes: 9, version: 3, goesVersion: 7 }),
    );
    net.write.mockResolvedValue([{ code: 'A/B', addedAt: null, stoppedAt: null }]);
    net.read.mockRejectedValue(new Error('away'));
    await pages.stopCard(looked, 'A/B');
    expect(net.write).toHaveBeenLastCalledWith('DELETE', '/people/customers/4/cards/A%2FB');
    expect(pages.page?.cards).toHaveLength(1);
    await pages.forget(looked);
    expect(pages.page).toBeNull();
  });
});

describe('a list that comes in', () => {
  it('stays in sight while an older question is answered', async () => {
    const lists = useImportStore();
    const before = late<ImportView | null>();
    net.read.mockReturnValueOnce(before.promise).mockResolvedValue(listOf('b', 'reading'));
    net.sendFile.mockResolvedValue(listOf('b', 'reading'));
    const first = lists.load();
    await Promise.all([lists.start('people.csv', 'Name\nMo\n'), before.come(null), first]);
    expect(lists.view).toMatchObject({ id: 'b', state: 'reading' });
    expect(net.sendFile).toHaveBeenCalledWith(
      expect.stringMatching(/^\/people\/imports\/[0-9a-f-]{36}\?name=people\.csv$/),
      'text/csv; charset=utf-8',
      'Name\nMo\n',
    );
  });
});
