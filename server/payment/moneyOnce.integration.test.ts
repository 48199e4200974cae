import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { PaymentView, TakeTender } from '../../contract/payment.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { TENDER_EVENTS, TENDER_STATES, tenderStep } from '../../core/payment/tender.ts';
import { verify } from '../books/verify.ts';
import { verifyTerminals } from '../books/witnesses.ts';
import { standIn, take, tap, tenderFor, typesByKind, view, type RungUp } from '../testing/paying.ts';
import { bringBack, giveBack, linesBack } from '../testing/returning.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

/** So many rounds of each race; 1,000 with MONDREL_ROUNDS. */
const ROUNDS = Number(process.env.MONDREL_ROUNDS ?? 12);
const GIFT_CARD = '44100771409';

let house: TestHouse;
let till: Browser;
let second: Browser;
let manager: Browser;
let types: ReadonlyMap<string, number>;

beforeAll(async () => {
  house = await openHouse();
  [till, second, manager] = [house.browser(), house.browser(), house.browser()];
  await till.signIn('1357', 1);
  await second.signIn('2468', 2);
  await openDrawer(till);
  await openDrawer(second);
  await manager.signIn('8024', 1);
  types = await typesByKind(house);
});
afterAll(async () => {
  await tiesOut();
  await house.stop();
});

async function tiesOut(): Promise<void> {
  expect(await house.house.database.ask(verify)).toEqual([]);
  expect(await verifyTerminals(house.house.database, house.house.terminal)).toEqual({
    differences: [],
    unasked: [],
  });
}

const typeOf = (kind: string) => types.get(kind) ?? 0;
const does = (browser: Browser, id: string, what: string) =>
  browser.ask<ProblemDetails & PaymentView>('POST', `/payment/tenders/${id}/${what}`);
const sqlByHand = (text: string, parameters: (string | number)[] = []) =>
  house.house.database.ask((sql) => sql.query(text, parameters));

/** Waits until a payment of a basket is in a state, or its sale is finished. */
const until = (sale: RungUp, state: string): Promise<PaymentView> =>
  eventually(async () => {
    const { body } = await view(till, sale);
    if (!body.tenders.some((one) => one.state === state) && !(state === 'finished' && body.finished))
      throw new Error(`no payment became ${state}`);
    return body;
  });

/** A sale paid by card on the till's terminal. */
async function paidByCard(numbers: readonly string[]): Promise<RungUp> {
  const sale = await ringUp(house, numbers);
  await take(till, tenderFor(sale, typeOf('card')));
  await eventually(() => tap(standIn(house)));
  await until(sale, 'finished');
  return sale;
}

/** What the shop holds and what the sale was paid with, after two requests for one basket have met. */
async function paidOnce(sale: RungUp): Promise<void> {
  const [row] = await sqlByHand(
    `select (select count(*) from payment_tender where basket_id = $1 and state in
              (select name from tender_state where holds)) as held,
            (select count(*) from tender where sale_id = $1 and payment_tender_id is not null) as tenders,
            (select coalesce(sum(amount), 0) from tender where sale_id = $1)::bigint as paid`,
    [sale.basket.id],
  );
  expect(row).toMatchObject({ paid: sale.expectedTotal });
  expect(row?.held).toBe(row?.tenders);
}

describe(`cash and a first payment of another kind at once on ${ENGINE}`, () => {
  const kinds: Record<string, Partial<TakeTender>> = {
    card: {},
    'stored-value': { number: GIFT_CARD, amount: 1 },
    cheque: { reference: '118' },
  };
  for (const [kind, more] of Object.entries(kinds)) {
    it(`takes money once: ${kind}`, { timeout: 60_000 + ROUNDS * 2_000 }, async () => {
      for (let round = 0; round < ROUNDS; round++) {
        const sale = await ringUp(house, ['STR-VI-44']);
        const cash = () => pay(till, sale);
        const other = () => take(till, tenderFor(sale, typeOf(kind), more));
        await Promise.all(round % 2 === 0 ? [cash(), other()] : [other(), cash()]);
        const { body } = await view(till, sale);
        if (!body.finished) {
          // The other payment came first: it is called off or undone, and cash finishes the sale.
          const [tender] = body.tenders.filter(({ state }) => ['asked', 'approved'].includes(state));
          if (tender) await does(till, tender.id, tender.state === 'asked' ? 'cancel' : 'undo');
          expect((await pay(till, sale)).status).toBe(200);
        }
        await paidOnce(sale);
        // Nobody is left asking: an approval would come for a sale that is paid.
        expect(['idle', 'result']).toContain(standIn(house).face('T-1001').step);
      }
      await tiesOut();
    });
  }
});

describe('ten tills', () => {
  it('take money once each, all at the same time', { timeout: 60_000 + ROUNDS * 20_000 }, async () => {
    await sqlByHand(
      'insert into till (number, place_id) select number, 1 from generate_series(11, 20) as number',
    );
    const ids = await sqlByHand('select id from till where number > 10 order by number');
    const tills = await Promise.all(
      ids.map(async ({ id }) => {
        const browser = house.browser();
        await browser.signIn('8024', Number(id));
        await openDrawer(browser);
        return browser;
      }),
    );
    for (let round = 0; round < Math.ceil(ROUNDS / 4); round++) {
      await Promise.all(
        tills.map(async (browser, at) => {
          const sale = await ringUp(house, ['STR-VI-44']);
          const more = at % 2 === 0 ? { number: GIFT_CARD, amount: 1 } : { reference: '118' };
          const tender = tenderFor(sale, typeOf(at % 2 === 0 ? 'stored-value' : 'cheque'), more);
          await Promise.all(
            round % 2 === 0
              ? [pay(browser, sale), take(browser, tender)]
              : [take(browser, tender), pay(browser, sale)],
          );
          const { body } = await view(browser, sale);
          if (!body.finished) {
            for (const { id } of body.tenders) await does(browser, id, 'undo');
            expect((await pay(browser, sale)).status).toBe(200);
          }
          await paidOnce(sale);
        }),
      );
    }
    await tiesOut();
  });
});

describe('what is finished', () => {
  it('is undone by a void or a return only: the parts of a refund stand', async () => {
    const sale = await paidByCard(['MET-C']);
    const { basket, answer } = await bringBack(till, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    const back = await eventually(async () => {
      const { body } = await till.ask<PaymentView>('GET', `/payment/baskets/${basket.id}`);
      if (!body.finished) throw new Error(`not finished: ${JSON.stringify(answer.body)}`);
      return body;
    });
    const [part] = back.tenders;
    for (const browser of [till, manager]) {
      const refused = await does(browser, part?.id ?? '', 'undo');
      expect([refused.status, refused.body.type]).toEqual([409, 'sale-finished']);
    }
    expect((await standIn(house).status('T-1001', part?.id ?? '')).state).toBe('approved');
  });

  it('takes no payment more, whatever is sent', async () => {
    const sale = await ringUp(house, ['STR-VI-44']);
    await pay(till, sale);
    const late = await take(till, tenderFor(sale, typeOf('cheque'), { reference: '7' }));
    expect(late.body).toMatchObject({ tenders: [], finished: { total: sale.expectedTotal } });
    await expect(
      sqlByHand(
        `insert into payment_tender (id, basket_id, position, type_id, state, amount, asked, handed, staff_id, at,
          changed_at)
         select $1, $2, 1, $3, 'approved', 1, 1, 1, 1, now(), now()`,
        [newId(), sale.basket.id, typeOf('cheque')],
      ),
    ).rejects.toThrow('finished');
    await expect(
      sqlByHand(`update payment set state = 'open', basket = '{}' where basket_id = $1`, [sale.basket.id]),
    ).rejects.toThrow('cannot be changed');
  });

  it('does not change its states by hand, and no state is skipped', async () => {
    const sale = await paidByCard(['STR-VI-44']);
    const [held] = await sqlByHand('select id from payment_tender where basket_id = $1', [sale.basket.id]);
    const set = (state: string) =>
      sqlByHand('update payment_tender set state = $2 where id = $1', [String(held?.id), state]);
    await expect(set('undoing')).rejects.toThrow('stand');
    await expect(set('asked')).rejects.toThrow('does not follow');
  });
});

describe('a refund', () => {
  it('never gives more back along a payment than it took, in however many parts', async () => {
    const sale = await paidByCard(['MET-C', 'STR-VI-44']);
    const one = await bringBack(till, sale.basket.id, [{ position: 1, quantity: 1000 }]);
    expect(one.answer.status, JSON.stringify(one.answer.body)).toBe(200);
    const rest = await linesBack(till, sale.basket.id, [{ position: 2, quantity: 1000 }]);
    const along = (amount: number) => ({ to: 'tender', saleId: sale.basket.id, position: 1, amount });
    const twice = await giveBack(till, { id: newId(), lines: rest.lines }, 0 - rest.refund, [
      along(rest.refund),
      along(rest.refund),
    ]);
    expect(twice.status).toBe(422);
    const id = newId();
    const same = await till.ask<ProblemDetails>('POST', '/payment/refunds', {
      basket: { id: newId(), lines: rest.lines },
      expectedTotal: 0 - rest.refund,
      parts: [
        { id, ...along(1) },
        { id, ...along(1) },
      ],
    });
    expect([same.status, same.body.fields?.[0]?.field]).toEqual([422, 'parts']);
    expect(
      (await giveBack(till, { id: newId(), lines: rest.lines }, 0 - rest.refund)).body.finished,
    ).not.toBeNull();
  });

  it('of a gift-card payment is given once by two requests at once', async () => {
    const sale = await ringUp(house, ['STR-VI-44', 'MET-C']);
    await take(till, tenderFor(sale, typeOf('stored-value'), { amount: 20_00, number: GIFT_CARD }));
    await take(till, tenderFor(sale, typeOf('cash'), { amount: sale.expectedTotal - 20_00 }));
    const { lines, refund } = await linesBack(till, sale.basket.id, [{ position: 2, quantity: 1000 }]);
    const basket = { id: newId(), lines };
    const part = () => [{ to: 'tender', saleId: sale.basket.id, position: 1, amount: 20_00 }];
    const answers = await Promise.all([
      giveBack(till, basket, 0 - refund, part()),
      giveBack(till, basket, 0 - refund, part()),
      giveBack(till, basket, 0 - refund, part()),
    ]);
    expect(
      answers.filter(({ status }) => status === 200),
      JSON.stringify(answers),
    ).toHaveLength(1);
    const [held] = await sqlByHand(
      `select sum(amount)::bigint as amount from payment_tender where basket_id = $1 and refund`,
      [basket.id],
    );
    expect(held?.amount).toBe(20_00);
    // What is held is one figure everywhere: a refund holds nothing of the card.
    const enquired = await till.ask<{ held: number }>('POST', '/gift-cards/enquiries', {
      number: GIFT_CARD,
    });
    expect(enquired.body.held).toBe(0);
    expect((await giveBack(till, basket, 0 - refund)).body.finished).toBeTruthy();
  });

  it('above what a payment took is refused by the database, too', async () => {
    const sale = await paidByCard(['MET-C']);
    const basket = newId();
    await sqlByHand(
      `insert into payment (basket_id, till_id, staff_id, basket, due, began_at)
        values ($1, 1, 1, '{"lines":[]}', -1, now())`,
      [basket],
    );
    const add = (amount: number) =>
      sqlByHand(
        `insert into payment_tender (id, basket_id, position, type_id, state, amount, asked, handed, staff_id, at,
          changed_at, refund, refunds_sale, refunds_position)
         select $1, $2, coalesce(max(position), 0) + 1, $3, 'approved', $4, $4, $4, 1, now(), now(), true, $5, 1
         from payment_tender where basket_id = $2`,
        [newId(), basket, typeOf('cash'), amount, sale.basket.id],
      );
    await add(sale.expectedTotal - 1);
    await expect(add(2)).rejects.toThrow('more than it took');
    await sqlByHand(`update payment_tender set state = 'undoing' where basket_id = $1`, [basket]);
    await sqlByHand(`update payment_tender set state = 'undone' where basket_id = $1`, [basket]);
  });
});

describe('a sale whose payment was corrected', () => {
  it('cannot be voided, nor a voided one corrected; the page says the same', async () => {
    const sale = await ringUp(house, ['MET-C']);
    await pay(till, sale);
    const correct = (id: string) =>
      till.ask<ProblemDetails>('POST', '/drawer/corrections', {
        saleId: id,
        position: 1,
        to: 'card',
        reason: 'Was a card',
      });
    expect((await correct(sale.basket.id)).status).toBe(200);
    const page = await manager.ask<{ noVoid: string }>('GET', `/journal/sales/${sale.basket.id}`);
    expect(page.body.noVoid).toContain('corrected');
    const refused = await manager.ask<ProblemDetails>('POST', `/journal/sales/${sale.basket.id}/void`, {
      reason: 'Mistake',
    });
    expect([refused.status, refused.body.detail]).toEqual([409, page.body.noVoid]);
    await expect(
      sqlByHand(
        `insert into sale_void (sale_id, state, reason, till_id, shift_id, staff_id, began_at)
         select id, 'begun', 'By hand', till_id, shift_id, staff_id, now() from sale where id = $1`,
        [sale.basket.id],
      ),
    ).rejects.toThrow('corrected');
    const other = await ringUp(house, ['MET-C']);
    await pay(till, other);
    const voided = await manager.ask('POST', `/journal/sales/${other.basket.id}/void`, { reason: 'Mistake' });
    expect(voided.status).toBe(200);
    expect((await correct(other.basket.id)).status).toBe(409);
  });

  it('and a void of it at once: one of them wins', async () => {
    for (let round = 0; round < Math.min(ROUNDS, 20); round++) {
      const sale = await ringUp(house, ['STR-VI-44']);
      await pay(till, sale);
      const answers = await Promise.all([
        till.ask('POST', '/drawer/corrections', {
          saleId: sale.basket.id,
          position: 1,
          to: 'card',
          reason: 'Card',
        }),
        manager.ask('POST', `/journal/sales/${sale.basket.id}/void`, { reason: 'Mistake' }),
      ]);
      expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    }
    await tiesOut();
  });
});

describe('the moment at which payment begins', () => {
  /** An offer that ends within the hour takes a part off; the basket is priced by the server. */
  async function withHappyHour(work: (sale: RungUp, clock: (time: string) => void) => Promise<void>) {
    const answer = await manager.ask<{ id: number }>('POST', '/offers', {
      name: `Last hour ${newId().slice(0, 8)}`,
      rule: {
        kind: 'each',
        goods: { itemIds: [], categories: ['Stands'] },
        off: { kind: 'percent', rate: 100_000 },
      },
      combines: false,
      conditions: {
        from: null,
        to: null,
        weekdays: [],
        hours: { from: '09:00', to: '11:00' },
        placeIds: [],
        groups: [],
        minimum: 0,
      },
      limits: { perSale: null, perCustomer: null, total: null },
      needs: 'nothing',
      points: 0,
    });
    expect(answer.status, JSON.stringify(answer.body)).toBe(200);
    const state = (word: string) =>
      manager.ask('PUT', `/offers/${answer.body.id}/state`, { state: word, version: 1 });
    expect((await state('live')).status).toBe(200);
    const now = vi.spyOn(house.house.clock, 'now');
    const clock = (time: string) => void now.mockReturnValue(new Date(`2026-03-02T${time}Z`));
    try {
      clock('15:30:00');
      const sale = await ringUp(house, ['STA-ORCH', 'MET-C']);
      const refused = await pay(till, { ...sale, expectedTotal: 1, handed: 1_000_000 });
      const { total } = (refused.body as unknown as { data: { priced: { total: number } } }).data.priced;
      await work({ ...sale, expectedTotal: total, handed: total }, clock);
    } finally {
      now.mockRestore();
      await state('ended');
    }
  }
  it('is the moment for prices, at whatever state of a card payment the hour ends', async () => {
    await withHappyHour(async (sale, clock) => {
      const card = tenderFor(sale, typeOf('card'));
      const asked = await take(till, card);
      expect(asked.body.tenders[0]?.state, JSON.stringify(asked.body)).toBe('asked');
      clock('16:00:01');
      await eventually(() => tap(standIn(house)));
      const { finished } = await until(sale, 'finished');
      expect(finished?.total).toBe(sale.expectedTotal);
    });
  });

  it('stays while the terminal is silent, and when the shop changes a price meanwhile', async () => {
    await withHappyHour(async (sale, clock) => {
      const card = tenderFor(sale, typeOf('card'));
      await take(till, card);
      clock('15:45:00');
      expect((await does(till, card.id, 'check')).body.tenders[0]?.state).toBe('unanswered');
      clock('16:00:01');
      await sqlByHand("update item set price = price + 100 where number = 'MET-C'");
      try {
        await eventually(() => tap(standIn(house)));
        const { finished } = await until(sale, 'finished');
        expect(finished?.total).toBe(sale.expectedTotal);
      } finally {
        await sqlByHand("update item set price = price - 100 where number = 'MET-C'");
      }
    });
  });

  it('stays with every further part, for cash, too, and what the till shows stays with it', async () => {
    await withHappyHour(async (sale, clock) => {
      const first = await take(till, tenderFor(sale, typeOf('cheque'), { amount: 10_00, reference: '1' }));
      clock('16:00:01');
      const shown = (await view(till, sale)).body;
      expect(shown.begun?.priced?.total).toBe(sale.expectedTotal);
      expect(first.body.begun?.at).toBe('2026-03-02T15:30:00.000Z');
      await take(till, tenderFor(sale, typeOf('cheque'), { amount: 10_00, reference: '2' }));
      const done = await pay(till, sale);
      expect(done.body.total, JSON.stringify(done.body)).toBe(sale.expectedTotal);
    });
  });

  it('is over when every payment was undone', async () => {
    await withHappyHour(async (sale, clock) => {
      const cheque = tenderFor(sale, typeOf('cheque'), { amount: 10_00, reference: '1' });
      await take(till, cheque);
      clock('16:00:01');
      await does(till, cheque.id, 'undo');
      expect((await view(till, sale)).body.begun).toBeNull();
      const refused = await pay(till, sale);
      expect(refused.status).toBe(409);
    });
  });
});

describe('a key', () => {
  it('with another body is refused, everywhere money moves', async () => {
    const sale = await ringUp(house, ['MET-C']);
    const first = await pay(till, sale);
    const again = await pay(till, sale);
    expect(again.body).toEqual(first.body);
    const other = await pay(till, { ...sale, handed: sale.handed + 1_00 });
    expect([other.status, (other.body as unknown as ProblemDetails).type]).toEqual([422, 'key-used']);

    const next = await ringUp(house, ['MET-C', 'STR-VI-44']);
    const cheque = tenderFor(next, typeOf('cheque'), { amount: 5_00, reference: '1' });
    await take(till, cheque);
    expect((await take(till, cheque)).body.tenders).toHaveLength(1);
    expect((await take(till, { ...cheque, amount: 6_00 })).status).toBe(422);
    const key = { 'idempotency-key': newId() };
    expect((await till.ask('POST', `/payment/tenders/${cheque.id}/undo`, undefined, key)).status).toBe(200);
    expect((await till.ask('POST', `/payment/tenders/${cheque.id}/undo`, undefined, key)).status).toBe(200);
    expect((await till.ask('POST', `/payment/tenders/${cheque.id}/cancel`, undefined, key)).status).toBe(422);
    for (const what of ['cancel', 'check', 'abandon', 'undo']) {
      const none = await till.ask('POST', `/payment/tenders/${cheque.id}/${what}`, undefined, {
        'idempotency-key': '',
      });
      expect(none.status, what).toBe(400);
    }
  });
});

describe('a till', () => {
  it('touches only its own payments, unless the right for other tills is there', async () => {
    const sale = await ringUp(house, ['MET-C']);
    const cheque = tenderFor(sale, typeOf('cheque'), { amount: 5_00, reference: '1' });
    await take(till, cheque);
    for (const what of ['undo', 'cancel', 'check', 'abandon'])
      expect((await does(second, cheque.id, what)).status, what).toBe(403);
    const theirs = await take(second, tenderFor(sale, typeOf('cheque'), { amount: 1_00, reference: '2' }));
    expect(theirs.status).toBe(409);
    const supervisor = house.browser();
    await supervisor.signIn('3690', 2);
    expect((await does(supervisor, cheque.id, 'undo')).body.tenders[0]?.state).toBe('undone');
  });
});

describe('states in the database', () => {
  it('are those of core', async () => {
    const laid = await sqlByHand('select from_state, event, to_state from tender_step');
    const wanted = TENDER_STATES.flatMap((from) =>
      TENDER_EVENTS.flatMap((event) => {
        const to = tenderStep(from, event);
        return to ? [`${from} ${event} ${to}`] : [];
      }),
    );
    expect(laid.map((row) => `${row.from_state} ${row.event} ${row.to_state}`).toSorted()).toEqual(
      wanted.toSorted(),
    );
  });
});
