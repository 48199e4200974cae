import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { eventually } from '../contract/testing/eventually.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from './testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
});
afterAll(() => test.stop());

describe(`a shop at rest on ${ENGINE}`, () => {
  it('writes nothing while it is only looked at: what comes by itself waits until it is due', async () => {
    const write = vi.spyOn(test.house.database, 'write');
    // What the start and the signing in have begun may still come to its end.
    await eventually(async () => {
      write.mockClear();
      for (let looked = 0; looked < 50; looked++)
        expect((await noor.ask('GET', '/counter/basket')).status).toBe(200);
      expect(write).not.toHaveBeenCalled();
    });
  });
});
