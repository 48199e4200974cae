import express, { type RequestHandler } from 'express';
import { personIfAny } from './session.ts';

const KB = 1024;
/** How large a body may be, by the address that it is sent to; the first that fits counts. */
export const SIZES: readonly (readonly [RegExp, number])[] = [
  [/^\/staff\/session/, KB],
  [/^\/staff\/countersigns/, 128 * KB],
  [/^\/staff\//, KB],
  [/^\/gift-cards\/certificates\/import/, 512 * KB],
  [/^\/(counter|payment|waiting)\//, 768 * KB],
  [/^\/(supply|transfers)\//, 256 * KB],
  [/^\/goods\/changes/, 256 * KB],
  [/^\/(drawer|journal)\//, 160 * KB],
  [/^\/setup\//, 256 * KB],
  [/^\/offers/, 64 * KB],
  [/^\/goods\/items\/\d+\/pictures/, 1_400 * KB],
  [/^\/devices\//, 32 * KB],
];
const OTHERWISE = 64 * KB;
/** What somebody may send who is not signed in: a PIN, a first run, a press on a terminal. */
export const UNKNOWN = 32 * KB;

const parsers = new Map<number, RequestHandler>();
function parserOf(limit: number): RequestHandler {
  let parser = parsers.get(limit);
  if (!parser) {
    parser = express.json({ limit });
    parsers.set(limit, parser);
  }
  return parser;
}

/** How large a body may be that somebody sends who is signed in, in bytes. */
export const sizeOf = (path: string): number =>
  SIZES.find(([address]) => address.test(path))?.[1] ?? OTHERWISE;

/** Reads a body as JSON, as large as what it is for may be. Who is not signed in sends little. */
export const readBody: RequestHandler = (request, response, next) => {
  const size = sizeOf(request.path);
  parserOf(personIfAny(request) ? size : Math.min(size, UNKNOWN))(request, response, next);
};
