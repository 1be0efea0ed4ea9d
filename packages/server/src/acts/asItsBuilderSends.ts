import { randomInt } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { parseJson } from '@grammata/core/submission';
import { now } from '../clock';
import { newId } from '../ids';
import { messageAgain, wasPosted, type Message } from '../intake';
import { HttpProblem, notFound } from '../problems';
import type { Services } from '../services';

/**
 * A recorded sample as its builder sent it, to be sent to its intake once more: shown and signed anew, and, where that is wanted, with an
 * identifier of its own. Throws HttpProblem where it did not come over HTTP.
 */
export async function asItsBuilderSends(
  { store, bodies, vault }: Pick<Services, 'store' | 'bodies' | 'vault'>,
  sampleId: string,
  isFresh: boolean,
): Promise<Message> {
  const sample = store.arrivals.submission(sampleId);
  const arrival = sample && store.arrivals.byId(sample.arrivalId);
  const intake = arrival && store.intakes.byId(arrival.intakeId);
  if (!sample || !arrival || !intake) throw notFound('recorded sample');
  if (!wasPosted(arrival))
    throw new HttpProblem(409, 'It came by e-mail, file or feed, so there is no request to repeat.');
  if (arrival.cut) throw new HttpProblem(409, 'Only its beginning was stored: it was larger than the intake’s limit.');
  const body = arrival.aside ? await readFile(bodies.fileOf(arrival.id)) : store.arrivals.bodyOf(arrival.id);
  const secrets = intake.secrets ? (parseJson(vault.open(intake.secrets)) as string[]) : [];
  const turn = (letter: string) => {
    const all = /\d/.test(letter) ? '0123456789' : letter === letter.toUpperCase() ? 'ABCDEF' : 'abcdef';
    return all[randomInt(all.length)]!;
  };
  const id = `msg_${newId()}`;
  return messageAgain({ ...arrival, body }, intake, secrets, {
    replace: isFresh ? sample.builderId : null,
    turn,
    id,
    now: now(),
  });
}
