import type { RequestHandler } from 'express';
import type { LiveHub } from './hub';

/** How often a silent stream says that it is alive, in ms. The interface counts on it. */
const HEARTBEAT = 5000;

/** Server-sent events (HTML Standard §9.2): every live event as one JSON message, and a heartbeat. */
export function liveStream(hub: LiveHub): RequestHandler {
  return (request, response) => {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    const beat = () => response.write('event: beat\ndata: {}\n\n');
    beat();
    const timer = setInterval(beat, HEARTBEAT);
    const stop = hub.subscribe(event => response.write(`data: ${JSON.stringify(event)}\n\n`));
    request.on('close', () => {
      clearInterval(timer);
      stop();
    });
  };
}
