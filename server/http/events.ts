import type { Response } from 'express';
import type { Hello, HouseEvent } from '../../contract/events.ts';

/** Tells all listening browsers what happens (server-sent events, WHATWG HTML 9.2). */
export interface EventFeed {
  tell(event: HouseEvent): void;
  /** Lets a room of the server itself hear. */
  hear(listener: (event: HouseEvent) => void): void;
  /** Lets a window hear. @param sessionId whose window it is */
  listen(sessionId: number, response: Response): void;
  close(): void;
}

/** A page takes the line for lost that was silent for three times as long: see `web/net/houseEvents.ts`. */
const STILL_HERE_MS = 5_000;
/** So many windows of one session hear what happens. */
const MOST_STREAMS = 8;

/**
 * What is sent must not be held back to be compressed. A browser that connects, or connects again, gets `hello` and
 * reads afresh what it shows.
 * @param edition which pages the server has: a window that shows other ones is told so
 */
export function eventFeed(edition: string): EventFeed {
  const listeners = new Map<Response, number>();
  const rooms: ((event: HouseEvent) => void)[] = [];
  let closed = false;
  const stillHere = setInterval(() => {
    for (const listener of listeners.keys()) listener.write('event: here\ndata: {}\n\n');
  }, STILL_HERE_MS);
  stillHere.unref();
  return {
    tell(event) {
      const text = `data: ${JSON.stringify(event)}\n\n`;
      for (const listener of listeners.keys()) listener.write(text);
      for (const hear of rooms) hear(event);
    },
    hear(listener) {
      rooms.push(listener);
    },
    listen(sessionId, response) {
      const mine = [...listeners].filter(([, session]) => session === sessionId);
      // The oldest window gives way: it connects again when somebody looks at it.
      if (mine.length >= MOST_STREAMS) mine[0]?.[0].end();
      if (closed) return void response.writeHead(503, { connection: 'close' }).end();
      response.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store, no-transform',
      });
      response.write(`retry: 1000\nevent: hello\ndata: ${JSON.stringify({ edition } satisfies Hello)}\n\n`);
      listeners.set(response, sessionId);
      response.on('close', () => listeners.delete(response));
    },
    close() {
      closed = true;
      clearInterval(stillHere);
      for (const listener of listeners.keys()) listener.end();
      listeners.clear();
    },
  };
}
