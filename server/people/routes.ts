import { Router } from 'express';
import { newCustomerSchema } from '../../contract/people.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { write } from '../http/write.ts';
import { addCustomer, customerOfCard, findCustomers, readCustomer } from './service.ts';

export function peopleRoutes(house: House): Router {
  const router = Router();

  router.get('/customers', async (request, response) => {
    personWith(request, 'sell');
    const { find } = request.query;
    response.json(
      await house.database.ask((sql) =>
        findCustomers(sql, typeof find === 'string' ? find.slice(0, 120) : ''),
      ),
    );
  });

  router.get('/customers/:id', async (request, response) => {
    personWith(request, 'sell');
    const id = Number(request.params.id);
    if (!Number.isInteger(id) || id >= 2 ** 31)
      throw new Problem('no-customer', 'There is no such customer.');
    response.json(await house.database.ask((sql) => readCustomer(sql, id, house.clock.now())));
  });

  router.get('/cards/:code', async (request, response) => {
    personWith(request, 'sell');
    response.json(
      await house.database.ask((sql) => customerOfCard(sql, request.params.code, house.clock.now())),
    );
  });

  router.post(
    '/customers',
    write(house, 'sell', newCustomerSchema, ({ sql, body }) => addCustomer(sql, body, house.clock.now())),
  );

  return router;
}
