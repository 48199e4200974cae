import { dayLater } from '../../core/day.ts';
import { timingSafeEqual } from 'node:crypto';
import { Router } from 'express';
import ical from 'ical-generator';
import { DateTime } from 'luxon';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { businessDate, instant } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import type { House } from '../house.ts';
import { notFound } from '../http/problem.ts';
import { collectionsFrom, orderSetup } from '../promises/orderStore.ts';
import { readShop } from '../shop/store.ts';

/** How far back the calendar goes, in days. */
const DAYS_BACK = 14;
const VISIT_MINUTES = 30;

/** The collections of open orders as a calendar (iCalendar, RFC 5545). Customers are named by their order only. */
export async function collectionCalendar(sql: Reader, now: Date): Promise<string> {
  const { name, timezone } = await readShop(sql);
  const calendar = ical({
    name: `Collections, ${name}`,
    prodId: { company: 'mondrel', product: 'collections' },
  });
  const from = dayLater(businessDate(now, timezone), { days: 0 - DAYS_BACK });
  for (const one of await collectionsFrom(sql, from)) {
    const start = DateTime.fromISO(`${one.day}T${one.time}`, { zone: timezone }).toUTC();
    calendar.createEvent({
      id: `${one.id}@mondrel`,
      stamp: instant(one.madeAt).toJSDate(),
      start: start.toJSDate(),
      end: start.plus({ minutes: VISIT_MINUTES }).toJSDate(),
      summary: `${promiseNumber('order', one.count)} is collected`,
      description: one.goods,
      location: [one.place, one.street, [one.postcode, one.city].filter(Boolean).join(' ')]
        .filter(Boolean)
        .join(', '),
    });
  }
  return calendar.toString();
}

const alike = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** The calendar under its secret address: calendar programs sign in nowhere. */
export function calendarRoutes({ database, clock }: House): Router {
  const router = Router();
  router.get('/:name', async (request, response, next) => {
    const [, key = ''] = /^([\da-f]{64})\.ics$/.exec(request.params.name) ?? [];
    const text = await database.ask(async (sql) => {
      const { calendarKey } = await orderSetup(sql);
      return alike(key, calendarKey) ? collectionCalendar(sql, clock.now()) : null;
    });
    if (text === null) {
      notFound(request, response, next);
      return;
    }
    response.type('text/calendar; charset=utf-8').send(text);
  });
  return router;
}
