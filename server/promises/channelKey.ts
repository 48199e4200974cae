import { createHash } from 'node:crypto';

/** What a channel's key is kept as: its SHA-256, in hexadecimal, and how it ends. The key itself is kept nowhere. */
export const channelKey = (key: string): { hash: string; end: string } => ({
  hash: createHash('sha256').update(key).digest('hex'),
  end: key.slice(-4),
});
