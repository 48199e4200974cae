import { createHmac, timingSafeEqual } from 'node:crypto';

/** Says who signed what is told: the HMAC (RFC 2104) of the body with SHA-256, in hexadecimal. */
export const SIGNATURE_HEADER = 'mondrel-signature';

/**
 * @param secret the SHA-256 of the key that the channel sends with, in hexadecimal: both sides know it, nobody else
 * does
 */
export const signatureOf = (body: string, secret: string): string =>
  createHmac('sha256', secret).update(body).digest('hex');

/** Whether something was signed by the shop. */
export function isSigned(body: string, signature: string, secret: string): boolean {
  const wanted = Buffer.from(signatureOf(body, secret));
  const given = Buffer.from(signature);
  return wanted.length === given.length && timingSafeEqual(wanted, given);
}

const PATIENCE_MS = 5_000;

/**
 * Tells a channel something by HTTP. A line that was open is closed by the other side whenever it likes: what was on
 * its way then is told once more at once, under the number that it has.
 * @throws Error in words where it does not take it
 */
export async function tellChannel(address: string, message: object, secret: string): Promise<void> {
  const body = JSON.stringify(message);
  const send = () =>
    fetch(address, {
      method: 'POST',
      headers: { 'content-type': 'application/json', [SIGNATURE_HEADER]: signatureOf(body, secret) },
      body,
      redirect: 'error',
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
  const answer = await send()
    .catch(send)
    .catch(() => {
      throw new Error('It cannot be reached.');
    });
  await answer.body?.cancel();
  if (!answer.ok) throw new Error(`It answers with ${answer.status}.`);
}
