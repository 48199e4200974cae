import { Router, type Request } from 'express';
import { boolean, mixed, object, string, whole } from '../../contract/yup.ts';
import type { TerminalPress } from '../../devices/terminal/face/face.ts';
import { BANK_ANSWERS, LINES, type BankAnswer, type Line } from '../../devices/terminal/face/sampleCards.ts';
import { TerminalRefusal, type CardEntry } from '../../devices/terminal/driver.ts';
import type { TerminalStandIn } from '../../devices/terminal/standIn.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { personWith } from '../http/session.ts';
import { idempotencyKey, validate } from '../http/write.ts';
import { listTerminals } from '../cardPayments/store.ts';

/** What is pressed on the face of the stand-in. It takes no card number: a page that is keyed on keeps it to itself. */
const pressSchema = object({
  press: string()
    .oneOf([
      'round-up',
      'tip',
      'card',
      'keyed',
      'pin',
      'signature',
      'stop',
      'answer-now',
      'set',
      'wake',
    ] as const)
    .required(),
  yes: boolean(),
  amount: whole().min(0).max(100_000_000),
  entry: string().oneOf(['tap', 'insert', 'swipe', 'keyed'] as CardEntry[]),
  cardId: string().max(20),
  card: object({
    token: string().max(80).required(),
    brand: string().max(20).required(),
    lastFour: string()
      .matches(/^\d{4}$/)
      .required(),
    kind: mixed<'credit' | 'debit'>().oneOf(['credit', 'debit']).required(),
  }).default(undefined),
  right: boolean(),
  path: string().max(20_000),
  line: string().oneOf(Object.keys(LINES) as Line[]),
  bank: string().oneOf(Object.keys(BANK_ANSWERS) as BankAnswer[]),
  partialRate: whole().min(1).max(999_999),
});

/** So many stand-ins are enough for any shop. */
const MOST_TERMINALS = 50;

/** The faces of the terminals, where they are the stand-in. Customers press them: nobody is signed in there. */
export function deviceRoutes(house: House): Router {
  const router = Router();
  const { terminal } = house;
  if (!isStandIn(terminal)) return router;

  router.get('/terminals', async (_request, response) => {
    const terminals = await house.database.ask(listTerminals);
    response.json(terminals.map(({ serial, name }) => ({ serial, name })));
  });
  // A new one is unpacked by who sets up the shop; it takes room, so that there is an end to it.
  router.post('/terminals', (request, response) => {
    personWith(request, 'shop.set-up');
    idempotencyKey(request);
    if (terminal.count() >= MOST_TERMINALS)
      throw new Problem('too-many', `There are ${MOST_TERMINALS} terminals already. Use one of them.`);
    response.json(terminal.unpack());
  });
  // Nobody makes terminals up by asking for them.
  const serialIn = async ({ params }: Request<{ serial: string }>): Promise<string> => {
    const { serial } = params;
    const paired = await house.database.ask(listTerminals);
    if (paired.some((one) => one.serial === serial) || terminal.has(serial)) return serial;
    throw new Problem('no-terminal', 'There is no such terminal.');
  };
  router.get('/terminals/:serial', async (request, response) => {
    response.json(terminal.face(await serialIn(request)));
  });
  router.post('/terminals/:serial', async (request, response) => {
    const serial = await serialIn(request);
    const press = await validate(pressSchema, request);
    try {
      // What each press needs is checked by the stand-in, which refuses what does not fit its step.
      response.json(terminal.press(serial, press as TerminalPress));
    } catch (error) {
      if (error instanceof TerminalRefusal) throw new Problem('refused', error.message);
      throw error;
    }
  });
  return router;
}

function isStandIn(driver: House['terminal']): driver is TerminalStandIn {
  return 'press' in driver;
}
