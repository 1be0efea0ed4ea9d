import type { LiveEvent } from '@grammata/contract';

/** What those who listen are told: an event, that the stream is alive, or that it was lost. A mark says what was told so far. */
export type LineMessage = { event: LiveEvent; mark: string } | { alive: string } | { lost: true };

/** The stream as a browser's EventSource gives it. */
export interface Stream {
  onmessage: ((message: { data: string; lastEventId: string }) => void) | null;
  onerror: (() => void) | null;
  addEventListener(name: 'beat', heard: (message: { data: string }) => void): void;
  close(): void;
}

/** A stream that was silent for longer than this is taken for dead, in ms. The server says something every 5 s. */
const SILENCE = 12_000;

/** One stream of events for any number of listeners: it is open while somebody listens, and opened anew when it falls silent. */
export class LiveLine {
  readonly #listeners = new Set<(said: LineMessage) => void>();
  #stream: Stream | null = null;
  #silence: ReturnType<typeof setTimeout> | undefined;
  /** The mark that was heard last; null while it is lost. */
  #mark: string | null = null;

  constructor(private readonly open: () => Stream) {}

  /** Gives back the function that stops listening. */
  listen(listener: (said: LineMessage) => void): () => void {
    this.#listeners.add(listener);
    if (this.#stream === null) this.#connect();
    else if (this.#mark !== null) listener({ alive: this.#mark });
    return () => {
      this.#listeners.delete(listener);
      if (this.#listeners.size === 0) this.#close();
    };
  }

  #connect(): void {
    const stream = this.open();
    this.#stream = stream;
    stream.addEventListener('beat', ({ data }) => {
      this.#heard(data);
      this.#say({ alive: data });
    });
    stream.onmessage = ({ data, lastEventId: mark }) => {
      this.#heard(mark);
      this.#say({ event: JSON.parse(data) as LiveEvent, mark });
    };
    stream.onerror = () => this.#lost();
    this.#wait();
  }

  #close(): void {
    clearTimeout(this.#silence);
    this.#stream?.close();
    this.#stream = null;
    this.#mark = null;
  }

  #wait(): void {
    clearTimeout(this.#silence);
    this.#silence = setTimeout(() => {
      this.#lost();
      this.#close();
      this.#connect();
    }, SILENCE);
  }

  #heard(mark: string): void {
    this.#wait();
    this.#mark = mark;
  }

  #lost(): void {
    this.#mark = null;
    this.#say({ lost: true });
  }

  #say(said: LineMessage): void {
    for (const listener of [...this.#listeners]) listener(said);
  }
}
