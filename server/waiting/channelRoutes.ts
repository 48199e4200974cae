import { Router, type Request } from 'express';
import {
  channelAddressSchema,
  channelOrderSchema,
  channelPaymentSchema,
  quoteSchema,
} from '../../contract/channels.ts';
import type { Writer } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { validate } from '../http/write.ts';
import { channelKey } from '../promises/channelKey.ts';
import { channelOfKey, putChannelAddress, type Channel } from '../promises/channelStore.ts';
import { channelGoods, quoteOrder } from './channelGoods.ts';
import {
  cancelChannelOrder,
  channelOrderState,
  takeChannelOrder,
  takeChannelPayment,
} from './channelOrders.ts';

/** Orders that are placed elsewhere. Whoever sends has the key of a channel (RFC 6750), and signs in nowhere. */
export function channelRoutes(house: House): Router {
  const { database, clock, events } = house;
  const router = Router();

  /** @throws Problem 401 where the key is no channel's */
  async function channelOf(request: Request): Promise<Channel> {
    const [, key] = /^Bearer ([\da-f]{64})$/.exec(request.get('authorization') ?? '') ?? [];
    const channel = key && (await database.ask((sql) => channelOfKey(sql, channelKey(key).hash)));
    if (!channel) throw new Problem('wrong-key', 'No channel has this key.');
    return channel;
  }

  /** A channel that is switched off orders nothing; what it has ordered can still be cancelled and asked for. */
  async function openChannel(request: Request): Promise<Channel> {
    const channel = await channelOf(request);
    if (!channel.active)
      throw new Problem('channel-closed', `${channel.name} is switched off in the shop's Setup.`);
    return channel;
  }

  async function change<T>(work: (sql: Writer) => Promise<T>): Promise<T> {
    const done = await database.write(work);
    events.tell({ kind: 'promises-changed' });
    events.tell({ kind: 'catalogue-changed' });
    return done;
  }

  router.get('/goods', async (request, response) => {
    await openChannel(request);
    response.json(await database.ask(channelGoods));
  });

  router.post('/quotes', async (request, response) => {
    const channel = await openChannel(request);
    const wanted = await validate(quoteSchema, request);
    response.json(await database.ask((sql) => quoteOrder(sql, channel, wanted, clock.now())));
  });

  router.post('/orders', async (request, response) => {
    const channel = await openChannel(request);
    const order = await validate(channelOrderSchema, request);
    response.json(await change((sql) => takeChannelOrder(sql, channel, order, clock.now())));
  });

  router.get('/orders/:reference', async (request, response) => {
    const channel = await channelOf(request);
    const { reference } = request.params;
    response.json(await database.ask((sql) => channelOrderState(sql, channel, reference)));
  });

  router.post('/orders/:reference/payments', async (request, response) => {
    const channel = await channelOf(request);
    const payment = await validate(channelPaymentSchema, request);
    const { reference } = request.params;
    response.json(await change((sql) => takeChannelPayment(sql, channel, reference, payment, clock.now())));
  });

  router.post('/orders/:reference/cancelled', async (request, response) => {
    const channel = await channelOf(request);
    const { reference } = request.params;
    response.json(await change((sql) => cancelChannelOrder(sql, channel, reference, clock.now())));
  });

  router.put('/address', async (request, response) => {
    const { id } = await channelOf(request);
    const { address } = await validate(channelAddressSchema, request);
    await database.write((sql) => putChannelAddress(sql, id, address));
    house.channels.wake();
    response.json({});
  });

  return router;
}
