import { v4 as newId } from 'uuid';
import type { Shelf, Tile, TileColour } from '../core/counter/shelves.ts';
import { putShelves } from '../server/counter/store.ts';
import { discountPresets } from '../server/offers/presetStore.ts';
import type { Writer } from '../server/db/database.ts';

/** The touch pages of the made-up shop: goods without a label, lessons and repairs, and till jobs. */
export async function layShelves(sql: Writer): Promise<void> {
  const rows = await sql.query<{ id: number; number: string }>('select id, number from item');
  const presets = (await discountPresets(sql)).slice(0, 2);
  const ids = new Map(rows.map(({ id, number }) => [number, id]));
  const item = (number: string, colour: TileColour = 'plain'): Tile => {
    const itemId = ids.get(number);
    if (itemId === undefined) throw new Error(`the shop has no ${number}`);
    return { id: newId(), colour, kind: 'item', itemId };
  };
  const bin = (name: string, numbers: readonly string[]): Tile => ({
    id: newId(),
    colour: 'blue',
    kind: 'bin',
    name,
    tiles: numbers.map((number) => item(number)),
  });
  const shelf = (name: string, tiles: Tile[]): Shelf => ({ id: newId(), name, tillId: null, tiles });
  await putShelves(
    sql,
    [
      shelf('No barcode', [
        bin('Picks', ['PIC-T', 'PIC-M', 'PIC-H', 'PIC-X', 'PIC-TH-S', 'PIC-TH-M', 'PIC-TH-L', 'PIC-TH-XL']),
        item('STR-ONE'),
        item('CAR-CG'),
        bin('Cable by metre', ['CAB-CUT', 'CAB-MIC', 'CAB-PLG-S', 'CAB-PLG-A']),
        bin('Egg shakers', ['EGG-BK', 'EGG-NV', 'EGG-WN', 'EGG-FG', 'EGG-SD']),
        item('CAR-RO-L'),
        item('CAR-VO-L'),
        item('BUN-RC', 'yellow'),
        item('BAG-GU'),
        { id: newId(), colour: 'plain', kind: 'category', category: 'Reeds' },
      ]),
      shelf('Lessons and repairs', [
        item('LES-30'),
        item('LES-45'),
        item('LES-60'),
        item('LES-EN'),
        item('REP-OPEN', 'red'),
        item('REP-STR-GU'),
        item('REP-STR-VI'),
        item('REP-PAD'),
        item('ENG'),
      ]),
      shelf('Till jobs', [
        { id: newId(), colour: 'blue', kind: 'job', job: 'gift-card' },
        { id: newId(), colour: 'yellow', kind: 'job', job: 'hold' },
        { id: newId(), colour: 'yellow', kind: 'job', job: 'waiting' },
        { id: newId(), colour: 'red', kind: 'job', job: 'return' },
        { id: newId(), colour: 'plain', kind: 'job', job: 'last-receipt' },
        { id: newId(), colour: 'plain', kind: 'job', job: 'customer' },
        { id: newId(), colour: 'plain', kind: 'job', job: 'open-price' },
        ...presets.map(({ id: presetId }): Tile => ({
          id: newId(),
          colour: 'yellow',
          kind: 'discount',
          presetId,
        })),
        { id: newId(), colour: 'plain', kind: 'job', job: 'relay' },
        { id: newId(), colour: 'red', kind: 'job', job: 'cash' },
        { id: newId(), colour: 'red', kind: 'job', job: 'no-sale' },
      ]),
    ],
    0,
  );
}
