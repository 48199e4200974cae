import { createHmac, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify<string, Buffer, number, Buffer>(scrypt);
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

/** The key under which a PIN can be looked up without being stored. */
export function pinKeyOf(pin: string, secret: string): string {
  return createHmac('sha256', secret).update(pin).digest('base64');
}

export async function storePin(pin: string, secret: string): Promise<StoredPin> {
  const salt = randomBytes(16);
  const hash = await derive(pin, salt, HASH_BYTES);
  return { pinKey: pinKeyOf(pin, secret), salt: salt.toString('base64'), hash: hash.toString('base64') };
}

export async function pinFits(
  pin: string,
  { salt, hash }: Pick<StoredPin, 'salt' | 'hash'>,
): Promise<boolean> {
  const derived = await derive(pin, Buffer.from(salt, 'base64'), HASH_BYTES);
  return timingSafeEqual(derived, Buffer.from(hash, 'base64'));
}
