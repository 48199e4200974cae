import { Router } from 'express';
import {
  channelKeySchema,
  channelSchema,
  channelSettlementSchema,
  newChannelSchema,
  type ChannelSettings,
} from '../../contract/channels.ts';
import { channelSettlementEntries } from '../../core/books/entries.ts';
import { formatMoney } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { channelPrefixProblem } from '../../core/promises/channel.ts';
import type { Reader } from '../db/database.ts';
import type { House } from '../house.ts';
import { idIn } from '../http/address.ts';
import { fieldProblem } from '../http/problem.ts';
import { idempotencyKey } from '../http/write.ts';
import { postEvent } from '../books/store.ts';
import { channelKey } from '../promises/channelKey.ts';
import * as channels from '../promises/channelStore.ts';
import { noteChange } from '../shop/changeStore.ts';
import { change } from '../shop/changes.ts';
import { readShop } from '../shop/store.ts';

const noChannel = () => fieldProblem('name', 'There is no such channel.');

/** @throws Problem 422 where a name or a beginning of numbers stands for something else */
async function checkChannel(sql: Reader, wanted: ChannelSettings, except: number): Promise<void> {
  const taken = await channels.channelTaken(sql, wanted, except);
  if (taken.name) throw fieldProblem('name', `There is a channel ${wanted.name} already.`);
  if (taken.prefix) throw fieldProblem('prefix', `Numbers of another channel begin with ${wanted.prefix}.`);
}

/** Where people order beside the shop: what is set up about it, its key, and what it has paid out. */
export function channelSetupRoutes(house: House): Router {
  const { clock, events } = house;
  const router = Router();

  router.post(
    '/',
    change(house, newChannelSchema, async ({ sql, body: { key, ...wanted } }) => {
      await checkChannel(sql, wanted, 0);
      await channels.addChannel(sql, wanted, channelKey(key));
    }),
  );

  router.put(
    '/:id',
    change(house, channelSchema, async ({ sql, body, request }) => {
      const id = idIn(request.params.id);
      await checkChannel(sql, body, id);
      const before = (await channels.listChannels(sql)).find((one) => one.id === id);
      if (!before) throw noChannel();
      const problem = channelPrefixProblem(before.prefix, body.prefix, await channels.hasOrders(sql, id));
      if (problem) throw fieldProblem('prefix', problem);
      await channels.putChannel(sql, id, body);
    }),
  );

  router.put(
    '/:id/key',
    change(house, channelKeySchema, async ({ sql, body, request }) => {
      if (!(await channels.putChannelKey(sql, idIn(request.params.id), channelKey(body.key))))
        throw noChannel();
    }),
  );

  router.post(
    '/:id/settled',
    change(
      house,
      channelSettlementSchema,
      async ({ sql, person: { staffId }, body, request, afterwards }) => {
        const id = idIn(request.params.id);
        const at = clock.now();
        await channels.lockChannel(sql, id);
        const channel = (await channels.listChannels(sql)).find((one) => one.id === id);
        if (!channel) throw noChannel();
        const { digits } = currencyOf((await readShop(sql)).currency);
        const money = (amount: number) => formatMoney(amount, digits);
        if (body.gross > channel.owed)
          throw fieldProblem('gross', `${channel.name} owes ${money(channel.owed)} only.`);
        afterwards(() => events.tell({ kind: 'channels-changed' }));
        if (
          !(await channels.addChannelSettlement(sql, {
            id: idempotencyKey(request),
            channelId: id,
            ...body,
            staffId,
            at,
          }))
        )
          return;
        const entries = channelSettlementEntries({ channelId: id, ...body });
        await postEvent(sql, { kind: 'channel-settlement', at, staffId, entries });
        await noteChange(
          sql,
          {
            section: 'channels',
            what: `Paid out by ${channel.name}`,
            was: '',
            became:
              body.fees > 0
                ? `${money(body.gross)}, of which it kept ${money(body.fees)}`
                : money(body.gross),
          },
          { staffId, at },
        );
      },
    ),
  );

  return router;
}
