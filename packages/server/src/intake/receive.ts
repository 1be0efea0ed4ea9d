import type { IncomingMessage, ServerResponse } from 'node:http';
import { now } from '../clock';
import { newId } from '../ids';
import type { ArrivalRow, IntakeRow, Intakes } from '../store';
import type { LiveHub } from '../live';
import { readBody, type KeptBody } from './body';
import type { Recorder } from './recorder';
import { reply, replyJson } from './reply';

export interface IntakeParts {
  intakes: Intakes;
  recorder: Recorder;
  live: LiveHub;
  /** Called with what was stored and is to be read. */
  stored(arrival: ArrivalRow): void;
}

const STRAY_LIMIT = 65536;

/** The path of intake addresses: `/in/` and the slug. */
export const slugOf = (url: string): string | null => /^\/in\/([^/?#]+)\/?(?:[?#]|$)/.exec(url)?.[1] ?? null;

/**
 * Takes requests to intake addresses: reads with a limit, stores durably, replies. Decoding follows later.
 * A handler for Node's own server, ahead of the framework: this is the way that has to be quick.
 */
export function receiver({ intakes, recorder, live, stored }: IntakeParts) {
  return async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const url = request.url ?? '/';
    const intake = intakes.bySlug(slugOf(url) ?? '');
    try {
      if (!intake) return await receiveStray(request, response);
      if (intake.state === 'stopped') {
        const detail = 'Open it again in Grammata; builders that retry will then deliver.';
        return replyJson(
          response,
          503,
          { type: 'about:blank', title: 'This intake is stopped.', status: 503, detail },
          { 'retry-after': '300' },
        );
      }
      if (request.method !== 'POST' && request.method !== 'GET') {
        return replyJson(
          response,
          405,
          { type: 'about:blank', title: 'An intake takes POST and GET.', status: 405 },
          { allow: 'GET, POST' },
        );
      }
      const body = await readBody(request, intake.sizeLimit);
      const arrival = arrivalFrom(request, intake, body);
      await recorder.record(arrival);
      if (body.cut) {
        const detail = `It has more than ${intake.sizeLimit} bytes. Its beginning was kept.`;
        replyJson(response, 413, {
          type: 'about:blank',
          title: 'The body is larger than this intake takes.',
          status: 413,
          detail,
        });
      } else {
        const isBrowserTab = request.method === 'GET' && (request.headers.accept ?? '').includes('text/html');
        reply(response, intake, arrival.id, isBrowserTab);
        stored(arrival);
      }
      live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
    } catch (error) {
      if (response.headersSent || response.destroyed) return;
      replyJson(response, 500, {
        type: 'about:blank',
        title: 'It could not be stored. Please send it again.',
        status: 500,
        detail: (error as Error).message,
      });
    }
  };

  async function receiveStray(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { bytes, size } = await readBody(request, STRAY_LIMIT);
    intakes.keepStray({
      at: now(),
      method: request.method ?? 'GET',
      url: request.url ?? '/',
      headers: headersOf(request),
      sender: request.socket.remoteAddress ?? null,
      size,
      body: bytes,
    });
    live.publish({ type: 'stray' });
    const detail = 'Compare the address in the form builder with the one Grammata shows, letter by letter.';
    replyJson(response, 404, { type: 'about:blank', title: 'No intake has this address.', status: 404, detail });
  }
}

/** Header names and values as they came, in their order. */
function headersOf({ rawHeaders }: IncomingMessage): [string, string][] {
  return Array.from({ length: rawHeaders.length / 2 }, (_, index) => [
    rawHeaders[2 * index]!.toLowerCase(),
    rawHeaders[2 * index + 1]!,
  ]);
}

function arrivalFrom(request: IncomingMessage, intake: IntakeRow, { bytes, size, cut }: KeptBody): ArrivalRow {
  const receivedAt = now();
  return {
    id: newId(receivedAt),
    intakeId: intake.id,
    receivedAt,
    method: request.method ?? 'POST',
    url: request.url ?? '/',
    contentType: request.headers['content-type'] ?? null,
    headers: headersOf(request),
    sender: request.socket.remoteAddress ?? null,
    size,
    body: bytes,
    cut,
    state: cut ? 'refused' : 'waiting',
    trouble: cut
      ? `Refused: ${(size / 1e6).toFixed(1)} MB is more than this intake’s limit of ${(intake.sizeLimit / 1e6).toFixed(1)} MB.`
      : null,
  };
}
