import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { StoredBasket } from '../../contract/counter.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { approveNeeded } from '../testing/returning.ts';
import { ENGINE, openHouse, ringUp, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
});
afterAll(() => test.stop());

describe(`a basket whose payment has begun, on ${ENGINE}`, () => {
  it('gives goods back only with the right, or an approval for it', async () => {
    const { basket } = await ringUp(test, ['MET-C', 'PIC-M']);
    let revision = 0;
    const put = async (next: object) => {
      const answer = await noor.ask<ProblemDetails & { revision: number }>('PUT', '/counter/basket', {
        basket: { ...basket, ...next },
        revision,
      });
      if (answer.status === 200) revision = answer.body.revision;
      return answer;
    };
    const [metronome] = basket.lines;
    const paying = { paymentBegan: true };
    expect((await put({ lines: [...basket.lines] })).status).toBe(200);
    expect((await put(paying)).status).toBe(200);
    expect((await put({})).status).toBe(422);
    expect((await put({ ...paying, note: 'wrapped' })).status).toBe(200);

    const refused = await put({ ...paying, lines: [metronome] });
    expect([refused.status, refused.body.type]).toEqual([403, 'countersign-needed']);
    expect((refused.body.data as StoredBasket).basket.lines).toHaveLength(2);
    await approveNeeded(noor, refused);
    // The other line was not meant.
    expect((await put({ ...paying, lines: basket.lines.slice(1) })).status).toBe(403);
    expect((await put({ ...paying, lines: [metronome] })).status).toBe(200);
    // And it is used up: nothing else goes with it.
    expect((await put({ ...paying, lines: [] })).status).toBe(403);
  });
});
