import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import escape from 'escape-html';
import express, { type Express } from 'express';
import { formatMoney } from '../../core/money.ts';
import type { PartnerSaying } from './driver.ts';
import type { HubEntry, HubStandIn } from './standIn.ts';

const STYLE = `
body { margin: 0; font: 17px/1.45 Georgia, serif; color: #2a2233; background: #f4f1f6; }
header { background: #5b3a6e; color: #fff; padding: 14px 24px; display: flex; gap: 24px; align-items: baseline; flex-wrap: wrap; }
header a { color: #fff; }
main { max-width: 860px; margin: 0 auto; padding: 22px; }
article { background: #fff; border: 1px solid #c5bacd; padding: 14px 18px; margin: 14px 0; }
h2 { margin: 0 0 6px; font-size: 20px; }
input, button { font: inherit; padding: 6px 10px; }
button { background: #5b3a6e; color: #fff; border: 0; padding: 8px 14px; cursor: pointer; }
form { display: flex; gap: 8px; flex-wrap: wrap; margin-top: 10px; }
form input { flex: 1 1 260px; }
li { margin: 3px 0; }
`;

const SAYINGS: readonly (readonly [PartnerSaying, string])[] = [
  ['accepted', 'Accept'],
  ['refused', 'Refuse'],
  ['question', 'Ask'],
  ['note', 'Say'],
  ['delivered', 'Delivered'],
];

const orderPart = (entry: HubEntry): string => `<article id="order-${escape(entry.number)}">
<h2>${escape(entry.number)} for ${escape(entry.partner)}, ${escape(entry.day)}</h2>
<p>From ${escape(entry.from)}. <b>${escape(entry.goods)}</b>, you get ${formatMoney(entry.part, 2)}.</p>
<p>To ${escape([entry.recipient, entry.street, `${entry.postcode} ${entry.city}`, entry.phone].filter(Boolean).join(', '))}</p>
${entry.wishes ? `<p>Wishes: ${escape(entry.wishes)}</p>` : ''}${entry.card ? `<p>Card: ${escape(entry.card)}</p>` : ''}
<ul>${entry.said.map(({ from, kind, words }) => `<li>${from === 'shop' ? 'They' : 'You'}: ${escape(kind)}${words ? `, ${escape(words)}` : ''}</li>`).join('')}</ul>
<form method="post" action="/orders/${escape(entry.reference)}"><input name="words" aria-label="Words for ${escape(entry.number)}" placeholder="why, or what is asked">
${SAYINGS.map(([kind, words]) => `<button name="kind" value="${kind}">${words}</button>`).join('')}</form></article>`;

function hubApp(hub: HubStandIn): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(express.urlencoded({ extended: false }));
  app.get('/style.css', (_request, response) => void response.type('css').send(STYLE));
  app.get('/', async (_request, response) => {
    const entries = await hub.entries();
    response.send(`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Relay hub</title><link rel="stylesheet" href="/style.css"></head><body><header><b>Relay hub</b> <a href="/">Look again</a>
<span>Here you are the partner: what you say is heard in the shop.</span></header><main><h1>Orders passed on</h1>
${entries.length === 0 ? '<p>Nothing was passed on yet.</p>' : entries.toReversed().map(orderPart).join('')}</main></body></html>`);
  });
  app.post('/orders/:reference', async (request, response, next) => {
    const { kind = '', words = '' } = request.body as Record<string, string>;
    const known = SAYINGS.find(([one]) => one === kind);
    if (!known || !(await hub.speak(request.params.reference, known[0], words.slice(0, 500)))) {
      next();
      return;
    }
    response.redirect(303, '/');
  });
  return app;
}

/** The page on which one is the partner. @param port 0 is any */
export async function serveHub(
  hub: HubStandIn,
  port: number,
): Promise<{ url: string; stop(): Promise<void> }> {
  const server = createServer(hubApp(hub));
  await new Promise<void>((done, fail) => server.once('error', fail).listen(port, done));
  return {
    url: `http://localhost:${(server.address() as AddressInfo).port}`,
    async stop() {
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
    },
  };
}
