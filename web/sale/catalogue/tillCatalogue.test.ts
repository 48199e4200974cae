import { describe, expect, it, vi } from 'vitest';
import { eventually } from '../../../contract/testing/eventually.ts';
import type { Catalogue, CatalogueRow } from '../../../contract/goods.ts';
import type { KeptCatalogue } from './keptCatalogue.ts';
import { tillCatalogue, type CatalogueSource } from './tillCatalogue.ts';

const row = (id: number, name = `Item ${id}`, stock = 5): CatalogueRow => [
  id,
  `N-${id}`,
  name,
  'Care',
  100,
  'each',
  0,
  1,
  stock,
  [],
];

/** A shop with four items, two of which are asked for first; its answers come when they are let go. */
function shop(kept?: KeptCatalogue) {
  const rows = new Map([1, 2, 3, 4].map((id) => [id, row(id)]));
  const changes: { revision: number; id: number }[] = [];
  let copy = kept;
  let revision = 7;
  let letGo: () => void = () => {};
  let held: Promise<void> = Promise.resolve();
  const since = vi.fn(async (origin: string, from: number): Promise<Catalogue> => {
    await held;
    const whole = origin !== 'here' || from === 0 || from > revision;
    const meant = new Set(changes.filter((one) => one.revision > from).map(({ id }) => id));
    return {
      origin: 'here',
      revision,
      whole,
      items: [...rows.values()].filter(([id]) => whole || meant.has(id)),
      removed: whole ? [] : [...meant].filter((id) => !rows.has(id)),
    };
  });
  const source: CatalogueSource = {
    first: vi.fn(() => Promise.resolve([row(1), row(2)])),
    since,
    stock: () => Promise.resolve([[1, 9]]),
    recall: () => Promise.resolve(copy),
    keep: (next) => Promise.resolve(void (copy = structuredClone(next))),
    pause: () => Promise.resolve(),
  };
  return {
    source,
    since,
    copy: () => copy,
    change(id: number, next: CatalogueRow | null) {
      revision += 1;
      changes.push({ revision, id });
      if (next) rows.set(id, next);
      else rows.delete(id);
    },
    hold() {
      held = new Promise((go) => (letGo = go));
    },
    letGo: () => letGo(),
  };
}
const numbers = (items: { number: string }[]) => items.map(({ number }) => number);

describe('the catalogue of a till that starts for the first time', () => {
  it('sells what comes first while the rest is on its way, and waits with what is not there yet', async () => {
    const { source, since, hold, letGo } = shop();
    hold();
    const catalogue = tillCatalogue(source);
    await catalogue.load();
    expect(catalogue.whole).toBe(false);
    expect((await catalogue.recognise('N-2'))?.id).toBe(2);
    expect(numbers(await catalogue.search('item', 9))).toEqual(['N-1', 'N-2']);

    const later = catalogue.recognise('N-4');
    const found = catalogue.find([1, 3]);
    // The server is heard again meanwhile: nothing is asked for twice.
    const refreshed = catalogue.refresh();
    letGo();
    expect((await later)?.id).toBe(4);
    expect(numbers(await found)).toEqual(['N-1', 'N-3']);
    await refreshed;
    expect(since.mock.calls).toEqual([
      ['', 0],
      ['here', 7],
    ]);
    expect(await catalogue.recognise('N-5')).toBeUndefined();
  });

  it('asks again for what could not be read', async () => {
    const { source, since } = shop();
    since.mockRejectedValueOnce(new Error('cut off'));
    const catalogue = tillCatalogue(source);
    await catalogue.load();
    expect((await catalogue.recognise('N-4'))?.id).toBe(4);
    expect(catalogue.whole).toBe(true);
  });
});

describe('the catalogue of a page in which somebody signs in again', () => {
  it('is read whole where the browser keeps nothing', async () => {
    const { source, change } = shop();
    const catalogue = tillCatalogue({ ...source, keep: () => Promise.resolve() });
    await catalogue.load();
    await catalogue.all();
    change(3, row(3, 'Another name'));
    await catalogue.load();
    expect((await catalogue.recognise('N-4'))?.id).toBe(4);
    expect((await catalogue.find([3]))[0]?.name).toBe('Another name');
  });

  it('takes changes in one after the other', async () => {
    const { source, since, change } = shop();
    const catalogue = tillCatalogue(source);
    await catalogue.load();
    await catalogue.all();
    change(3, row(3, 'First'));
    const refreshed = [catalogue.refresh()];
    change(3, row(3, 'Second'));
    refreshed.push(catalogue.refresh());
    await Promise.all(refreshed);
    expect(since.mock.calls.slice(1)).toEqual([
      ['here', 7],
      ['here', 9],
    ]);
    expect((await catalogue.find([3]))[0]?.name).toBe('Second');
  });
});

describe('the catalogue of a till that has kept a copy', () => {
  it('reads only what changed since', async () => {
    const { source, since, change, copy } = shop();
    await tillCatalogue(source).load();
    await eventually(() => expect(copy()?.items).toHaveLength(4));
    change(3, row(3, 'Another name'));
    change(4, null);

    const next = tillCatalogue(source);
    await next.load();
    expect(since.mock.lastCall).toEqual(['here', 7]);
    expect(source.first).toHaveBeenCalledOnce();
    expect(numbers(await next.search('another', 9))).toEqual(['N-3']);
    expect(await next.recognise('N-4')).toBeUndefined();
    await next.readStock();
    expect(next.items.find(1)?.stock).toBe(9);
  });

  it('reads everything anew where the shop has another history', async () => {
    const { source, copy } = shop({ origin: 'elsewhere', revision: 3, items: [row(9)] });
    const catalogue = tillCatalogue(source);
    await catalogue.load();
    expect(await catalogue.recognise('N-9')).toBeUndefined();
    expect((await catalogue.recognise('N-3'))?.id).toBe(3);
    await eventually(() => expect(copy()?.origin).toBe('here'));
  });

  it('keeps another one once much has changed', async () => {
    const { source, copy, change } = shop({
      origin: 'here',
      revision: 7,
      items: [1, 2, 3, 4].map((id) => row(id)),
    });
    for (let id = 100; id <= 1100; id++) change(id, row(id));
    const catalogue = tillCatalogue(source);
    await catalogue.load();
    await eventually(() => expect(copy()?.items).toHaveLength(1005));
    expect(copy()?.revision).toBe(7 + 1001);
    expect((await catalogue.recognise('N-1100'))?.id).toBe(1100);
  });
});
