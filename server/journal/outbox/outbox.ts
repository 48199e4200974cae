import bwipjs from 'bwip-js/node';
import { PostRefusal, type PostDriver } from '../../../devices/post/driver.ts';
import type { Paper } from '../../../core/journal/paper.ts';
import { paperHtml } from '../../../core/journal/paperHtml.ts';
import { sendAgainAt } from '../../../core/journal/sendAgain.ts';
import { paperText } from '../../../core/journal/paperText.ts';
import { instant, momentOf } from '../../clock.ts';
import type { Reader, Writer } from '../../db/database.ts';
import type { House, Sender } from '../../house.ts';
import { startSender } from '../../sender.ts';
import { readShop } from '../../shop/store.ts';
import { dueMessages, markSent, nextTry, noteTrouble, type OutboxMessage } from '../../outbox/store.ts';
import { paperPdf } from '../printing/paperPdf.ts';

const AT_ONCE = 20;
const SOONEST_MS = 5_000;

const barcode = (text: string): string =>
  `data:image/svg+xml;base64,${Buffer.from(bwipjs.toSVG({ bcid: 'code128', text, height: 10 })).toString('base64')}`;

export function startOutbox(
  { database, clock, log, events }: Pick<House, 'database' | 'clock' | 'log' | 'events'>,
  post: PostDriver,
  paperFor: (sql: Writer, message: OutboxMessage, now: Date) => Promise<Paper>,
  sheetsFor: (sql: Reader, message: OutboxMessage) => Promise<Buffer | null>,
): Sender {
  async function send(message: OutboxMessage): Promise<void> {
    const { paper, sheets, shop } = await database.write(async (sql) => ({
      sheets: await sheetsFor(sql, message),
      paper: await paperFor(sql, message, clock.now()),
      shop: await readShop(sql),
    }));
    const { id: number, recipient: to } = message;
    const text = paperText(paper);
    if (message.kind === 'text') return post.text({ number, to, text: `${shop.name}\n${text}` });
    if (!shop.mailFrom)
      throw new Error('The shop has no address that mail comes from: set it in Setup, Receipts.');
    await post.mail({
      id: `${number}.${shop.mailId}@${shop.mailFrom.split('@').at(-1)}`,
      number,
      from: `"${shop.name.replaceAll('"', '')}" <${shop.mailFrom}>`,
      to,
      subject: `${message.subject}: ${paper.title}, ${shop.name}`,
      text,
      html: paperHtml(paper, barcode),
      attachments: [
        {
          filename: `${paper.title.replaceAll(/[^\w-]+/g, '-')}.pdf`,
          content: sheets ?? (await paperPdf(paper)),
        },
      ],
    });
  }

  async function sendOne(message: OutboxMessage): Promise<void> {
    try {
      await send(message);
      await database.ask((sql) => markSent(sql, message.id, clock.now()));
    } catch (error) {
      const words = error instanceof Error ? error.message : 'It could not be sent.';
      log.warn({ err: error, message: message.id }, 'a message could not be sent');
      const again =
        error instanceof PostRefusal
          ? undefined
          : sendAgainAt(instant(message.askedAt).toJSDate(), clock.now(), message.tries + 1);
      await database.ask((sql) => noteTrouble(sql, message.id, words, again));
      const { recipient, saleId } = message;
      if (!again) events.tell({ kind: 'message-refused', recipient, saleId, words });
    }
  }

  return startSender(
    { clock, log },
    {
      what: 'sending messages',
      soonestMs: SOONEST_MS,
      nextDue: async () => momentOf(await database.ask(nextTry)),
      async sendDue(stopped) {
        for (;;) {
          const due = await database.ask((sql) => dueMessages(sql, clock.now(), AT_ONCE));
          for (const message of due) {
            if (stopped()) return;
            await sendOne(message);
          }
          if (due.length < AT_ONCE) return;
        }
      },
    },
  );
}
