import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { hubStandIn } from './standIn.ts';

const ORDER = {
  reference: 't1',
  number: 'R-0001',
  from: 'Ostler Lane',
  partner: 'CORRAN',
  day: '2026-03-03',
  recipient: 'Wilma',
  street: 'Mill Lane 3',
  postcode: '51200',
  city: 'Dunmere',
  phone: '',
  wishes: '',
  card: '',
  goods: 'A recorder',
  part: 40_00,
};
let folder = '';
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'mondrel-hub-'))));
afterEach(() => rmSync(folder, { recursive: true }));
const open = () => hubStandIn(folder, () => new Date('2026-03-02T15:00:00Z'));

describe('the hub', () => {
  it('takes an order, and what is said about it, once however often it is asked', async () => {
    const hub = open();
    await Promise.all([hub.send(ORDER), hub.send(ORDER)]);
    const reply = { id: 'm1', reference: 't1', kind: 'reply' as const, words: 'The light one' };
    await hub.say(reply);
    await hub.say(reply);
    expect(await open().entries()).toMatchObject([{ number: 'R-0001', said: [{ words: 'The light one' }] }]);
  });

  it('keeps what a partner says until it is taken, and says that there is something', async () => {
    const hub = open();
    const heard = vi.fn();
    hub.hear(heard);
    await hub.send(ORDER);
    expect(await hub.speak('t1', 'refused', 'Too late')).toBe(true);
    expect(await hub.speak('nothing', 'refused', '')).toBe(false);
    expect(heard).toHaveBeenCalled();
    const [message] = await open().messages();
    expect(message).toMatchObject({ reference: 't1', kind: 'refused', words: 'Too late' });
    await hub.taken(message?.id ?? '');
    expect(await hub.messages()).toEqual([]);
  });

  it('keeps an order for the shop until it is taken, also over a restart, and numbers them by partner', async () => {
    const { reference: _none, number: _no, from: _from, ...order } = ORDER;
    const hub = open();
    const heard = vi.fn();
    hub.hear(heard);
    expect(await hub.pass(order)).toBe('CORRAN-1');
    expect(await hub.pass({ ...order, partner: 'TALLIS' })).toBe('TALLIS-1');
    expect(await open().pass(order)).toBe('CORRAN-2');
    expect(heard).toHaveBeenCalledTimes(2);
    // What the shop has passed on is none of them.
    await hub.send(ORDER);
    const waiting = await open().orders();
    expect(waiting.map(({ number, goods }) => [number, goods])).toEqual([
      ['CORRAN-1', 'A recorder'],
      ['TALLIS-1', 'A recorder'],
      ['CORRAN-2', 'A recorder'],
    ]);
    await hub.orderTaken(waiting[1]?.reference ?? '');
    await hub.orderTaken('nothing');
    expect((await hub.orders()).map(({ number }) => number)).toEqual(['CORRAN-1', 'CORRAN-2']);
  });

  it('that cannot be reached says so', async () => {
    writeFileSync(join(folder, 'closed'), '');
    await expect(open().send(ORDER)).rejects.toThrow('cannot be reached');
    await expect(open().say({ id: 'm', reference: 't1', kind: 'reply', words: '' })).rejects.toThrow();
  });
});
