import { createHmac, randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify<string, string | Buffer, number, ScryptOptions, Buffer>(scrypt);
const HASH_BYTES = 32;

/** A stored PIN: a key to find it by, and a salted hash (scrypt, RFC 7914) to check it against. */
export interface StoredPin {
  pinKey: string;
  salt: string;
  hash: string;
}

export function newPinSecret(): string {
  return randomBytes(32).toString('base64');
}

/** Slow on purpose (scrypt, RFC 7914): every guess costs as much. */
const SLOW = { N: 2 ** 14, r: 8, p: 1 };

/** The key under which a PIN can be looked up without being stored. @param secret the installation's own */
export async function pinKeyOf(pin: string, secret: string): Promise<string> {
  return (await derive(pin, secret, HASH_BYTES, SLOW)).toString('base64');
}

/** The same as earlier versions made it. */
export function earlierPinKeyOf(pin: string, secret: string): string {
  return createHmac('sha256', secret).update(pin).digest('base64');
}

export async function storePin(pin: string, secret: string): Promise<StoredPin> {
  const salt = randomBytes(16);
  const hash = await derive(pin, salt, HASH_BYTES, {});
  return {
    pinKey: await pinKeyOf(pin, secret),
    salt: salt.toString('base64'),
    hash: hash.toString('base64'),
  };
}

export async function pinFits(
  pin: string,
  { salt, hash }: Pick<StoredPin, 'salt' | 'hash'>,
): Promise<boolean> {
  const derived = await derive(pin, Buffer.from(salt, 'base64'), HASH_BYTES, {});
  return timingSafeEqual(derived, Buffer.from(hash, 'base64'));
}
