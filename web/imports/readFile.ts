/**
 * A file as text: UTF-8, UTF-16 where it says so, and what older spreadsheets write otherwise (Windows-1252, as the
 * Encoding Standard of the WHATWG reads it).
 */
export function textOf(bytes: Uint8Array): string {
  const [first, second] = bytes;
  if (first === 0xff && second === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (first === 0xfe && second === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
