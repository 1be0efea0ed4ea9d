import type { Scope } from '@grammata/core/scope';
import type { Submission } from '@grammata/core/submission';
import type { Shelved } from '../samples';
import type { Seen } from './workbench';

/** Seen when it is looked at: thousands of samples are not unpacked for the few that are shown. */
export class SeenLater implements Seen {
  constructor(
    private readonly shelved: Shelved,
    private readonly seenIn: (submission: Submission) => Scope,
  ) {}
  get id() {
    return this.shelved.id;
  }
  get receivedAt() {
    return this.shelved.receivedAt;
  }
  get place() {
    return this.shelved.place;
  }
  get name() {
    return this.shelved.name;
  }
  get isVariant() {
    return this.shelved.isVariant;
  }
  get submission() {
    return this.shelved.submission;
  }
  get scope() {
    return this.seenIn(this.shelved.submission);
  }
}
