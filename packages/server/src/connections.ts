import type { IncomingMessage, Server } from 'node:http';
import type { Socket } from 'node:net';
import type { Logger } from 'pino';
import type { Timer, Timers } from './timing';

/** Connections at once: descriptors are finite. From one address a part of them, so that nobody shuts others out. */
const MOST = 4000;
const MOST_OF_ONE = 1000;
/** ms after which a body has to have come at a pace, and bytes a second that it has to come at. */
const GRACE = 30_000;
const SLOWEST = 1000;
const LOOK = 5000;

export interface ConnectionParts {
  timers: Timers;
  log: Logger;
  /** True for a proxy that is trusted: many senders stand behind it. */
  isProxy(address: string): boolean;
  /** Connections from one address; the usual number unless told otherwise. */
  mostOfOne?: number;
}

/** Bounds what one address can take of a server: its connections, and the time for which a body that hardly comes holds one. */
export function boundConnections(server: Server, parts: ConnectionParts): Timer {
  const { timers, log, isProxy, mostOfOne = MOST_OF_ONE } = parts;
  server.maxConnections = MOST;
  const open = new Map<string, number>();
  /** When each body that is coming was begun, and how many bytes its connection had taken by then. */
  const coming = new Map<IncomingMessage, { at: number; bytes: number }>();
  const warn = once((address: string) =>
    log.warn({ address }, 'too many connections from one address; some were not taken'),
  );

  server.on('connection', (socket: Socket) => {
    const address = socket.remoteAddress ?? '';
    if (isProxy(address)) return;
    const count = (open.get(address) ?? 0) + 1;
    open.set(address, count);
    socket.once('close', () => {
      const left = (open.get(address) ?? 1) - 1;
      if (left > 0) open.set(address, left);
      else open.delete(address);
    });
    if (count <= mostOfOne) return;
    warn(address);
    socket.destroy();
  });
  server.on('request', (request: IncomingMessage) => {
    coming.set(request, { at: performance.now(), bytes: request.socket.bytesRead });
    const over = () => coming.delete(request);
    request.once('end', over).once('close', over);
  });
  return timers.every('looking for bodies that hardly come', LOOK, () => {
    for (const [request, begun] of coming) {
      // All of it came: however long its answer takes, or is read, its sender has done what it had to.
      if (request.complete) {
        coming.delete(request);
        continue;
      }
      const took = performance.now() - begun.at;
      if (took < GRACE) continue;
      const { socket } = request;
      // What came and was not read yet is no fault of the sender's.
      if (socket.bytesRead - begun.bytes >= (SLOWEST * took) / 1000 || request.readableLength > 0) continue;
      coming.delete(request);
      // RFC 9110 §15.5.9: it took too long; the connection is not used again.
      if (socket.writable) socket.write('HTTP/1.1 408 Request Timeout\r\nconnection: close\r\n\r\n');
      socket.destroySoon();
    }
  });
}

/** Told at most once a minute. */
function once(tell: (address: string) => void): (address: string) => void {
  let last = -Infinity;
  return address => {
    if (performance.now() - last < 60_000) return;
    last = performance.now();
    tell(address);
  };
}
