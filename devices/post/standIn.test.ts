import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PostRefusal, type Mail } from './driver.ts';
import { postStandIn } from './standIn.ts';

const mail = (to: string): Mail => ({
  id: '7.0f2c@shop.example',
  number: 7,
  from: '"Shop" <shop@shop.example>',
  to,
  subject: 'Receipt 1-0007',
  text: 'Thank you.',
  html: '<p>Thank you.</p>',
  attachments: [],
});

const answer = (words: string, code: number) => Object.assign(new Error(words), { responseCode: code });

describe('mail', () => {
  const taken: string[] = [];
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    onRcptTo({ address }, _session, done) {
      if (address.startsWith('nobody')) done(answer('5.1.1 No such mailbox', 550));
      else if (address.startsWith('full')) done(answer('4.2.2 Mailbox full', 452));
      else done();
    },
    onData(stream, _session, done) {
      let text = '';
      stream.on('data', (part: Buffer) => (text += part.toString()));
      stream.on('end', () => {
        taken.push(text);
        done(text.includes('Too large') ? answer('5.3.4 Too large', 552) : null);
      });
    },
  });
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-post-'));
  let smtp = '';
  beforeAll(async () => {
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    smtp = `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
  });
  afterAll(async () => {
    await new Promise<void>((closed) => server.close(closed));
    rmSync(folder, { recursive: true });
  });
  const send = (to: string, more: Partial<Mail> = {}) =>
    postStandIn(folder, smtp).mail({ ...mail(to), ...more });
  const failure = (to: string, more: Partial<Mail> = {}) =>
    send(to, more).then(
      () => undefined,
      (error: unknown) => error,
    );

  it('goes out with its own number, that no other in the world has', async () => {
    await send('ada@reader.example');
    expect(taken.at(-1)).toContain('Message-ID: <7.0f2c@shop.example>');
    expect(taken.at(-1)).toContain('From: Shop <shop@shop.example>');
  });

  it('that is refused for good is told from what may go through later', async () => {
    const refused = await failure('nobody@reader.example');
    expect(refused).toBeInstanceOf(PostRefusal);
    expect((refused as Error).message).toContain('No such mailbox');
    expect(await failure('ada@reader.example', { subject: 'Too large' })).toBeInstanceOf(PostRefusal);
    const later = await failure('full@reader.example');
    expect(later).toBeInstanceOf(Error);
    expect(later).not.toBeInstanceOf(PostRefusal);
    const off = await postStandIn(folder, 'smtp://127.0.0.1:1')
      .mail(mail('ada@reader.example'))
      .catch((error: unknown) => error);
    expect(off).toBeInstanceOf(Error);
    expect(off).not.toBeInstanceOf(PostRefusal);
  });

  it('without a mail server is a file that mail programs read, with the same number', async () => {
    await postStandIn(folder, undefined).mail(mail('ada@reader.example'));
    expect(readdirSync(folder)).toEqual(['000000007.eml']);
    expect(readFileSync(join(folder, '000000007.eml'), 'utf8')).toContain(
      'Message-ID: <7.0f2c@shop.example>',
    );
  });
});
