import { TestEnvironment } from 'jest-environment-jsdom';

/** Nothing is laid out: nothing has a size that changes. */
class ResizeObserver {
  observe() {}
  unobserve() {}
  disconnect() {}
}

/** A browser's document for tests, with what jsdom lacks of it. */
export default class extends TestEnvironment {
  constructor(...given) {
    super(...given);
    Object.assign(this.global, { AbortController, AbortSignal, Headers, Request, Response, TextDecoder, TextEncoder });
    Object.defineProperty(this.global.navigator, 'languages', { value: ['en-GB'] });
    this.global.ResizeObserver = ResizeObserver;
    this.global.Element.prototype.scrollIntoView = () => undefined;
  }
}
