/** A message that goes out by mail. */
export interface Mail {
  /** The same number again is the same message: unique in the world (RFC 5322, 3.6.4), without its brackets. */
  id: string;
  /** The number under which it is kept here. */
  number: number;
  from: string;
  to: string;
  subject: string;
  text: string;
  html: string;
  attachments: { filename: string; content: Buffer }[];
}

/** Says that a message will never be taken: trying again is of no use. */
export class PostRefusal extends Error {}

/** Sends mail and text messages. */
export interface PostDriver {
  /** @throws PostRefusal when it is refused for good, Error when it cannot be sent now; both in words */
  mail(mail: Mail): Promise<void>;
  /** @throws PostRefusal when it is refused for good, Error when it cannot be sent now; both in words */
  text(message: { number: number; to: string; text: string }): Promise<void>;
}
