import { TestEnvironment } from 'jest-environment-jsdom';

/** A browser's document for tests, with what jsdom lacks of it. */
export default class extends TestEnvironment {
  constructor(...given) {
    super(...given);
    Object.assign(this.global, { AbortController, AbortSignal, Headers, Request, Response, TextDecoder, TextEncoder });
  }
}
