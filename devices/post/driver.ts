/** A message that goes out by mail. */
export interface Mail {
  /** The same number again is the same message. */
  id: number;
  from: string;
  to: string;
  subject: string;
  text: string;
  html: string;
  attachments: { filename: string; content: Buffer }[];
}

/** Sends mail and text messages. */
export interface PostDriver {
  /** @throws Error saying in words why it could not be sent */
  mail(mail: Mail): Promise<void>;
  /** @throws Error saying in words why it could not be sent */
  text(message: { id: number; to: string; text: string }): Promise<void>;
}
