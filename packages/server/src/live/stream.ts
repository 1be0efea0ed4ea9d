import type { Request, RequestHandler } from 'express';
import { cookieOf, SESSION_COOKIE } from '../access';
import { HttpProblem } from '../problems';
import type { Timers } from '../timing';
import type { LiveHub } from './hub';

/** How often a silent stream says that it is alive, in ms. The interface counts on it. */
const HEARTBEAT = 5000;
/** Bytes that may wait for a reader that does not keep up, before it is let go of. */
const MOST_WAITING = 1_000_000;
/** Streams of one session: each is a connection that stays. */
const MOST_STREAMS = 60;

/**
 * Server-sent events (HTML Standard §9.2): every live event as one JSON message, and a heartbeat, each with the hub's mark. It ends with the session:
 * at once when somebody signs out, at the next heartbeat when its time is over.
 */
export function liveStream(hub: LiveHub, timers: Timers, isSignedIn: (request: Request) => boolean): RequestHandler {
  const open = new Map<string, number>();
  return (request, response) => {
    const session = cookieOf(request, SESSION_COOKIE) ?? '';
    const count = (open.get(session) ?? 0) + 1;
    if (count > MOST_STREAMS)
      throw new HttpProblem(
        429,
        'This session is open in too many places.',
        'Close some of them, and load this again.',
      );
    open.set(session, count);
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    const write = (text: string) => {
      if (response.destroyed) return;
      response.write(text);
      if (response.writableLength > MOST_WAITING) response.destroy();
    };
    const beat = () => {
      if (isSignedIn(request)) write(`event: beat\ndata: ${hub.mark}\n\n`);
      else response.end();
    };
    beat();
    const timer = timers.every('the heartbeat of a live stream', HEARTBEAT, beat);
    const stop = hub.subscribe(event => {
      if (event.type === 'signedOut') beat();
      else write(`id: ${hub.mark}\ndata: ${JSON.stringify(event)}\n\n`);
    });
    response.on('close', () => {
      timer.stop();
      stop();
      const left = (open.get(session) ?? 1) - 1;
      if (left > 0) open.set(session, left);
      else open.delete(session);
    });
  };
}
