/**
 * A key that nobody guesses: 256 bits in hexadecimal. It is made where it is shown, and nothing but its hash is kept.
 */
export function newChannelKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(32));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}
