import bwipjs from 'bwip-js/node';
import type { PostDriver } from '../../../devices/post/driver.ts';
import type { Paper } from '../../../core/journal/paper.ts';
import { paperHtml } from '../../../core/journal/paperHtml.ts';
import { paperText } from '../../../core/journal/paperText.ts';
import type { Reader } from '../../db/database.ts';
import type { House, Outbox } from '../../house.ts';
import { readShop } from '../../setup/store.ts';
import { reportPaper } from '../../drawer/service.ts';
import { giftCardOf, receiptPaper } from '../service.ts';
import { markSent, noteTrouble, waitingMessages, type OutboxMessage } from './store.ts';

const AT_ONCE = 20;
const TRY_AGAIN_MS = 30_000;

const barcode = (text: string): string =>
  `data:image/svg+xml;base64,${Buffer.from(bwipjs.toSVG({ bcid: 'code128', text, height: 10 })).toString('base64')}`;

export function startOutbox(
  { database, clock, log }: Pick<House, 'database' | 'clock' | 'log'>,
  post: PostDriver,
): Outbox {
  let stopped = false;
  let running: Promise<void> = Promise.resolve();
  let timer: NodeJS.Timeout | undefined;

  async function send(message: OutboxMessage): Promise<void> {
    const { paper, from, shop } = await database.ask(async (sql) => ({
      paper: await paperFor(sql, message),
      from: (await readShop(sql)).mailFrom,
      shop: (await readShop(sql)).name,
    }));
    const { id, recipient: to } = message;
    const text = paperText(paper);
    if (message.kind === 'text') return post.text({ id, to, text: `${shop}\n${text}` });
    // Loaded when a mail goes out: it is large.
    const { paperPdf } = await import('../printing/paperPdf.ts');
    await post.mail({
      id,
      from: `"${shop.replaceAll('"', '')}" <${from}>`,
      to,
      subject: `${message.subject}: ${paper.title}, ${shop}`,
      text,
      html: paperHtml(paper, barcode),
      attachments: [
        { filename: `${paper.title.replaceAll(/[^\w-]+/g, '-')}.pdf`, content: await paperPdf(paper) },
      ],
    });
  }

  /** One that cannot be sent does not hold up the others; it is tried again later. */
  async function sendWaiting(): Promise<void> {
    const waiting = await database.ask((sql) => waitingMessages(sql, AT_ONCE));
    let sent = 0;
    for (const message of waiting) {
      if (stopped) return;
      try {
        await send(message);
        await database.ask((sql) => markSent(sql, message.id, clock.now()));
        sent += 1;
      } catch (error) {
        const words = error instanceof Error ? error.message : 'It could not be sent.';
        log.warn({ err: error, message: message.id }, 'a message could not be sent');
        await database.ask((sql) => noteTrouble(sql, message.id, words));
      }
    }
    if (sent < waiting.length) {
      clearTimeout(timer);
      timer = setTimeout(() => outbox.wake(), TRY_AGAIN_MS);
      timer.unref();
    } else if (waiting.length === AT_ONCE) await sendWaiting();
  }

  const outbox: Outbox = {
    wake() {
      if (stopped) return;
      running = running
        .then(sendWaiting)
        .catch((error: unknown) => log.error({ err: error }, 'sending messages stopped'));
    },
    async stop() {
      stopped = true;
      clearTimeout(timer);
      await running;
    },
  };
  return outbox;
}

function paperFor(sql: Reader, { saleId, storedValueId, shiftId }: OutboxMessage): Promise<Paper> {
  if (saleId !== null) return receiptPaper(sql, saleId);
  if (storedValueId !== null) return giftCardOf(sql, storedValueId);
  if (shiftId !== null) return reportPaper(sql, shiftId);
  throw new Error('a message is about nothing');
}
