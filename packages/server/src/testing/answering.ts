import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/** What was asked of a server, whole. */
export interface ReceivedRequest {
  method: string;
  url: string;
  headers: IncomingMessage['headers'];
  body: Buffer;
}

export interface Answering {
  url: string;
  heard: ReceivedRequest[];
  stop(): Promise<void>;
}

/** A server on a port of its own that answers as it is told to, and keeps what it was asked. */
export async function startAnswering(
  answer: (heard: ReceivedRequest, response: ServerResponse) => void,
  heard: ReceivedRequest[] = [],
): Promise<Answering> {
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on('data', (chunk: Buffer) => chunks.push(chunk));
    request.on('end', () => {
      const { method = '', url = '', headers } = request;
      const whole = { method, url, headers, body: Buffer.concat(chunks) };
      heard.push(whole);
      answer(whole, response);
    });
  });
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done));
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    heard,
    stop: () => new Promise(done => (server.closeAllConnections(), server.close(() => done()))),
  };
}

/** Answers with JSON. */
export const json = (response: ServerResponse, status: number, body: unknown): void =>
  void response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
