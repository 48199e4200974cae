import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { StoredShelves } from '../../contract/shelves.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let maren: Browser;
let noor: Browser;

beforeAll(async () => {
  test = await openHouse();
  maren = test.browser();
  noor = test.browser();
  await maren.signIn('3690', 1);
  await noor.signIn('1357', 2);
});
afterAll(() => test.stop());

const read = async (browser: Browser) => (await browser.ask<StoredShelves>('GET', '/counter/shelves')).body;
const put = (browser: Browser, body: object) =>
  browser.ask<{ revision: number } & ProblemDetails>('PUT', '/counter/shelves', body);

describe(`shelves on ${ENGINE}`, () => {
  it('come with the shop and are stored for all tills, through a restart', async () => {
    const { shelves, revision } = await read(noor);
    expect(shelves.map(({ name }) => name)).toEqual(['No barcode', 'Lessons and repairs', 'Till jobs']);
    const tile = { id: newId(), kind: 'job', job: 'waiting', colour: 'red' };
    const mine = [...shelves, { id: newId(), name: 'Mine', tillId: 1, tiles: [tile] }];
    expect((await put(maren, { shelves: mine, revision })).body).toEqual({ revision: revision + 1 });
    await test.restart();
    expect(await read(noor)).toEqual({ shelves: mine, revision: revision + 1 });
  });

  it('are arranged by those who may', async () => {
    expect((await put(noor, await read(noor))).status).toBe(403);
  });

  it('are not overwritten by somebody who has not seen the last change', async () => {
    const { shelves, revision } = await read(maren);
    const stale = await put(maren, { shelves: [], revision: revision - 1 });
    expect([stale.status, stale.body.type]).toEqual([409, 'shelves-changed']);
    expect(stale.body.data).toEqual({ shelves, revision });
  });

  it.each([
    ['an unknown kind of tile', { id: newId(), kind: 'magic', colour: 'plain' }],
    [
      'a bin in a bin',
      {
        id: newId(),
        kind: 'bin',
        colour: 'blue',
        name: 'A',
        tiles: [{ id: newId(), kind: 'bin', colour: 'blue', name: 'B', tiles: [] }],
      },
    ],
    ['a bin without a name', { id: newId(), kind: 'bin', colour: 'blue', name: ' ', tiles: [] }],
    ['a colour that means nothing', { id: newId(), kind: 'job', job: 'hold', colour: 'mauve' }],
  ])('refuse %s', async (_words, tile) => {
    const { revision } = await read(maren);
    const refused = await put(maren, {
      shelves: [{ id: newId(), name: 'Odd', tillId: null, tiles: [tile] }],
      revision,
    });
    expect(refused.status).toBe(422);
    expect((await read(maren)).revision).toBe(revision);
  });
});
