// What a page has a worker work out: it tells it what is to be known, and asks it about the newest state of what is typed.

/** What a worker is sent: something to keep, or a question. */
export type Sent<Told, Asked> = { told: Told } | { asked: Asked };
/** What it says to a question: the answer, or why there is none. */
export type Reply<Answer> = { answer: Answer } | { fault: string };
/** A reply with the question that it is to. */
export type Replied<Asked, Answer> = Reply<Answer> & { asked: Asked };

type Line = Pick<Worker, 'postMessage' | 'terminate' | 'onmessage' | 'onerror'>;

/**
 * Asks a worker. While one question is under way only the newest waits, however fast people type; what is behind the newest is not heard.
 * What fails outside a question is heard as a reply too: no page waits for ever.
 */
export function openAsker<Told, Asked, Answer>(worker: Line, heard: (reply: Replied<Asked, Answer>) => void) {
  let underWay: { asked: Asked } | null = null;
  let waiting: { asked: Asked } | null = null;
  const send = (sent: Sent<Told, Asked>) => worker.postMessage(sent);
  const ask = (asked: Asked) => {
    if (underWay) {
      waiting = { asked };
      return;
    }
    underWay = { asked };
    waiting = null;
    send({ asked });
  };
  const replied = (reply: Reply<Answer>) => {
    const [to, next] = [underWay, waiting];
    underWay = null;
    if (next) ask(next.asked);
    else if (to) heard({ ...reply, asked: to.asked });
  };
  worker.onmessage = ({ data }: MessageEvent<Reply<Answer>>) => replied(data);
  worker.onerror = event => replied({ fault: event.message });
  return { tell: (told: Told) => send({ told }), ask, close: () => worker.terminate() };
}

export type Asker<Told, Asked> = ReturnType<typeof openAsker<Told, Asked, unknown>>;

/** The worker's side: keeps what it is told, and answers; `held` names the buffers of an answer that are handed over, not copied. */
export function answering<Told, Asked, Answer>(parts: {
  told?: (told: Told) => void;
  asked: (asked: Asked) => Answer;
  held?: (answer: Answer) => Transferable[];
}): void {
  self.onmessage = ({ data }: MessageEvent<Sent<Told, Asked>>) => {
    if ('told' in data) {
      parts.told?.(data.told);
      return;
    }
    try {
      const answer = parts.asked(data.asked);
      self.postMessage({ answer } satisfies Reply<Answer>, { transfer: parts.held?.(answer) ?? [] });
    } catch (error) {
      self.postMessage({ fault: (error as Error).message } satisfies Reply<Answer>);
    }
  };
}
