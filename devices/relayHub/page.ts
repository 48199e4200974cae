import escape from 'escape-html';
import express, { type Express } from 'express';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { listening } from '../listening.ts';
import type { PartnerSaying } from './driver.ts';
import type { HubEntry, HubStandIn } from './standIn.ts';

const STYLE = `
body { margin: 0; font: 17px/1.45 Georgia, serif; color: #2a2233; background: #f4f1f6; }
header { background: #5b3a6e; color: #fff; padding: 14px 24px; display: flex; gap: 24px;
  align-items: baseline; flex-wrap: wrap; }
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

/** What is said of an order that the shop has passed on. */
const SAYINGS: readonly (readonly [PartnerSaying, string])[] = [
  ['accepted', 'Accept'],
  ['refused', 'Refuse'],
  ['question', 'Ask'],
  ['note', 'Say'],
  ['delivered', 'Delivered'],
];
/** What is said of an order that was passed to the shop. */
const ASKINGS: readonly (readonly [PartnerSaying, string])[] = [
  ['question', 'Ask'],
  ['note', 'Say'],
  ['withdrawn', 'Take it back'],
];

/** What a partner says to pass an order on, as it is typed. */
const FIELDS: readonly (readonly [name: string, words: string, type?: string])[] = [
  ['partner', 'Your code'],
  ['goods', 'What is wanted'],
  ['part', 'What the shop gets'],
  ['day', 'Day of delivery', 'date'],
  ['recipient', 'Who gets it'],
  ['street', 'Street and number'],
  ['postcode', 'Postcode'],
  ['city', 'Town'],
  ['phone', 'Telephone'],
  ['wishes', 'Wishes'],
  ['card', 'Words on the card'],
];
const OPTIONAL: readonly string[] = ['phone', 'wishes', 'card'];

function orderPart(entry: HubEntry): string {
  const { number, partner, day, from, goods, part, forShop, said, reference, wishes, card } = entry;
  const title = forShop ? `${number} from ${partner}, ${day}` : `${number} for ${partner}, ${day}`;
  const who = forShop ? 'the shop gets' : `From ${from}, you get`;
  const to = [entry.recipient, entry.street, `${entry.postcode} ${entry.city}`, entry.phone];
  return `<article id="order-${escape(number)}">
<h2>${escape(title)}</h2>
<p><b>${escape(goods)}</b>, ${escape(who)} ${formatMoney(part, 2)}.</p>
<p>To ${escape(to.filter(Boolean).join(', '))}</p>
${wishes ? `<p>Wishes: ${escape(wishes)}</p>` : ''}${card ? `<p>Card: ${escape(card)}</p>` : ''}
<ul>${said.map(({ from: by, kind, words }) => `<li>${by === 'shop' ? 'They' : 'You'}: ${escape(kind)}${words ? `, ${escape(words)}` : ''}</li>`).join('')}</ul>
<form method="post" action="/orders/${escape(reference)}"><input name="words" aria-label="Words for ${escape(number)}" placeholder="why, or what is asked">
${(forShop ? ASKINGS : SAYINGS).map(([kind, words]) => `<button name="kind" value="${kind}">${words}</button>`).join('')}</form></article>`;
}

const list = (entries: readonly HubEntry[], none: string): string =>
  entries.length === 0 ? `<p>${none}</p>` : entries.toReversed().map(orderPart).join('');

/** @param wrong what is wrong with what was typed */
function page(entries: readonly HubEntry[], wrong = '', typed: Record<string, string> = {}): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Relay hub</title><link rel="stylesheet" href="/style.css"></head><body><header><b>Relay hub</b> <a href="/">Look again</a>
<span>Here you are the partner: what you say is heard in the shop.</span></header><main><h1>Orders passed on</h1>
${list(
  entries.filter(({ forShop }) => !forShop),
  'Nothing was passed on yet.',
)}
<h1>Orders for the shop</h1>
${list(
  entries.filter(({ forShop }) => forShop),
  'Nothing was passed to the shop yet.',
)}
<h2>Pass an order to the shop</h2>${wrong ? `<p role="alert"><b>${escape(wrong)}</b></p>` : ''}
<form method="post" action="/passed" id="passing">${FIELDS.map(([name, words, type = 'text']) => `<input type="${type}" name="${name}" aria-label="${words}" placeholder="${words}" value="${escape(typed[name] ?? '')}">`).join('')}
<button>Pass it on</button></form></main></body></html>`;
}

function hubApp(hub: HubStandIn): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(express.urlencoded({ extended: false }));
  app.get('/style.css', (_request, response) => void response.type('css').send(STYLE));
  app.get('/', async (_request, response) => void response.send(page(await hub.entries())));
  app.post('/passed', async (request, response) => {
    const typed = request.body as Record<string, string>;
    const said = (name: string): string => typed[name]?.trim() ?? '';
    const part = parseMoney(said('part'), 2);
    const missing = FIELDS.find(([name]) => !OPTIONAL.includes(name) && !said(name));
    const wrong = missing ? `${missing[1]}?` : part === null || part <= 0 ? 'What does the shop get?' : '';
    if (wrong || part === null) {
      response.status(422).send(page(await hub.entries(), wrong, typed));
      return;
    }
    await hub.pass({
      partner: said('partner').toUpperCase(),
      goods: said('goods'),
      part,
      day: said('day'),
      recipient: said('recipient'),
      street: said('street'),
      postcode: said('postcode'),
      city: said('city'),
      phone: said('phone'),
      wishes: said('wishes'),
      card: said('card'),
    });
    response.redirect(303, '/');
  });
  app.post('/orders/:reference', async (request, response, next) => {
    const { kind = '', words = '' } = request.body as Record<string, string>;
    const known = [...SAYINGS, ...ASKINGS].find(([one]) => one === kind);
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
  const { server, url } = await listening(hubApp(hub), port);
  return {
    url,
    async stop() {
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
    },
  };
}
