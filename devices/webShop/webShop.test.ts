import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openBook, type WebBook, type WebOrder } from './book.ts';
import { place } from './placing.ts';
import { sendAll } from './sending.ts';
import { isSigned, signatureOf, SIGNATURE_HEADER, tellChannel } from './tell.ts';

const SECRET = 'a'.repeat(64);
let folder = '';
let server: Server;
let url = '';
/** What was asked, and what is answered. */
let asked: { path: string; body: string; signature: string }[] = [];
let answer: { status: number; body: object } = { status: 200, body: {} };

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'mondrel-web-shop-'));
  asked = [];
  server = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      asked.push({ path: request.url ?? '', body, signature: String(request.headers[SIGNATURE_HEADER]) });
      response
        .writeHead(answer.status, { 'content-type': 'application/json' })
        .end(JSON.stringify(answer.body));
    });
  });
  await new Promise<void>((done) => server.listen(0, done));
  url = `http://localhost:${(server.address() as AddressInfo).port}`;
});
afterEach(() => {
  server.close();
  rmSync(folder, { recursive: true });
});

function ordered(): { book: WebBook; keep: () => void; order: WebOrder } {
  const { book, keep } = openBook(folder, 'key');
  const lines = [{ number: 'PAD-08', name: 'Practice pad', quantity: 1, unitPrice: 32_90, amount: 32_90 }];
  const quote = { lines, fee: 0, total: 35_37, firstPayment: 0, places: [] };
  const typed = { name: 'Ada', way: 'collect', place: '1', day: '2026-03-03', time: '12:00', pay: 'later' };
  return { book, keep, order: place(book, quote, typed) };
}
const STATE = { number: 'O-0001', state: 'placed', words: 'Placed', open: 35_37, givenBack: 0 };

describe('what a channel is told', () => {
  it('is signed by who knows the secret, and by nobody else', async () => {
    answer = { status: 204, body: {} };
    await tellChannel(url, { reference: 'WEB-1' }, SECRET);
    const [{ body = '', signature = '' } = {}] = asked;
    expect(isSigned(body, signature, SECRET)).toBe(true);
    expect(isSigned(`${body} `, signature, SECRET)).toBe(false);
    expect(isSigned(body, signatureOf(body, 'b'.repeat(64)), SECRET)).toBe(false);
    expect(isSigned(body, '', SECRET)).toBe(false);
  });

  it('says so where it is not taken', async () => {
    answer = { status: 503, body: {} };
    await expect(tellChannel(url, {}, SECRET)).rejects.toThrow('It answers with 503.');
    server.close();
    server.closeAllConnections();
    await expect(tellChannel('http://localhost:1', {}, SECRET)).rejects.toThrow('cannot be reached');
  });
});

it('a channel is told once more at once where it closes the line on what is on its way', async () => {
  const heard: string[] = [];
  const closing = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      heard.push(body);
      if (heard.length % 2 === 1) request.socket.destroy();
      else response.writeHead(204).end();
    });
  });
  await new Promise<void>((done) => closing.listen(0, done));
  try {
    await tellChannel(`http://localhost:${(closing.address() as AddressInfo).port}/`, { message: 3 }, SECRET);
    expect(heard).toEqual(['{"message":3}', '{"message":3}']);
  } finally {
    closing.close();
    closing.closeAllConnections();
  }
});

describe('the book of the web shop', () => {
  it('counts its orders, and has them after it was closed', () => {
    const { book, keep, order } = ordered();
    expect(order.reference).toBe('WEB-1001');
    expect(
      place(book, { lines: [], fee: 0, total: 0, firstPayment: 0, places: [] }, { place: '1' }).reference,
    ).toBe('WEB-1002');
    keep();
    expect(openBook(folder, 'other').book).toEqual(book);
  });

  it('sends what the shop has not got until it takes it, the same every time', async () => {
    const { book, order } = ordered();
    answer = { status: 500, body: {} };
    await sendAll(url, book);
    expect(order).toMatchObject({ number: null, refused: false, said: 'The shop answers with 500.' });
    answer = { status: 200, body: STATE };
    await sendAll(url, book);
    expect(order).toMatchObject({ number: 'O-0001', state: 'placed', said: '', sent: 2 });
    expect(asked[0]?.body).toBe(asked[1]?.body);
    await sendAll(url, book);
    expect(asked).toHaveLength(2);
  });

  it('does not send again what the shop refuses, and says why', async () => {
    const { book, order } = ordered();
    answer = { status: 422, body: { title: 'wrong', fields: [{ message: 'It comes to 35.37.' }] } };
    await sendAll(url, book);
    await sendAll(url, book);
    expect(order).toMatchObject({ refused: true, said: 'It comes to 35.37.' });
    expect(asked).toHaveLength(1);
  });

  it('is not cancelled, and a payment is not taken, where the shop says no', async () => {
    const { book, order } = ordered();
    answer = { status: 200, body: STATE };
    await sendAll(url, book);
    order.cancelling = true;
    order.later.push({ reference: 'p', amount: 1, sent: false });
    answer = { status: 409, body: { title: 'It was handed over.' } };
    await sendAll(url, book);
    expect(order).toMatchObject({
      cancelling: false,
      later: [],
      said: 'It was handed over.',
      state: 'placed',
    });
  });
});
