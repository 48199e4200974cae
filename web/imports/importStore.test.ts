import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ImportLine, ImportView } from '../../contract/imports.ts';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../../contract/testing/late.ts';
import { useImportStore } from './importStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), sendFile: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

const view = (id: string, state = 'ready') => ({ id, state }) as ImportView;
const lines = (...numbers: number[]) => numbers.map((line) => ({ line }) as ImportLine);

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of Object.values(net)) one.mockReset();
});

describe('a list that is brought in', () => {
  it('does not show lines of another list, however late they come', async () => {
    const imports = useImportStore();
    net.read.mockResolvedValueOnce(view('a'));
    await imports.begin('customers');
    const slow = late<ImportLine[]>();
    net.read.mockReturnValueOnce(slow.promise);
    const looked = imports.look('a', 'new');
    net.read.mockResolvedValueOnce(null);
    await imports.begin('goods');
    slow.come(lines(1, 2));
    await looked;
    expect([imports.view, imports.lines]).toEqual([null, []]);
  });

  it('is gone with its lines when it is dropped', async () => {
    const imports = useImportStore();
    net.read.mockResolvedValueOnce(lines(4));
    await imports.look('a', '');
    expect(imports.lines).toEqual(lines(4));
    net.write.mockResolvedValueOnce(view('a', 'dropped'));
    await imports.drop('a');
    expect(imports.lines).toEqual([]);
    expect(imports.view?.state).toBe('dropped');
  });

  it('is chosen for column by column, accepted, and followed', async () => {
    const imports = useImportStore();
    net.write.mockResolvedValue(view('a', 'writing'));
    await imports.choose('a', ['number', null]);
    await imports.accept('a', true);
    expect(net.write.mock.calls).toEqual([
      ['PUT', '/people/imports/a/columns', { columns: ['number', null] }],
      ['POST', '/people/imports/a/accept', { doubles: true }],
    ]);
    imports.follow();
    net.read.mockResolvedValueOnce(view('a', 'done'));
    tell({ kind: 'import-changed' });
    await eventually(() => expect(imports.view?.state).toBe('done'));
  });
});
