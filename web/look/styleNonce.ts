/** What lets a style sheet in that is made at run time: the server says it with each page. */
export const styleNonce = (): string =>
  document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';
