import type { Json } from '@grammata/core/submission';
import allFresh from './fresh.json';
import allHeld from './held.json';
import type { Labelled } from './labelled';
import allLater from './later.json';
import allSixty from './sixty.json';
import allThirty from './thirty.json';
import allTuned from './tuned.json';
import allUnseen from './unseen.json';
import type { Written } from './written';

/** A payload as it is kept: its document, the lines of its body, or the body as it is. */
type Kept<Payload> = Omit<Payload, 'type' | 'body'> &
  ({ document: Json } | { type: string | null; lines: string[] } | { type: string | null; body: string });

/** Payloads with their bodies as they are sent. */
const sent = <Payload>(all: unknown): Payload[] =>
  (all as Kept<Payload>[]).map(payload => {
    if ('document' in payload) {
      const { document, ...rest } = payload;
      return { type: 'application/json', body: JSON.stringify(document), ...rest } as Payload;
    }
    if (!('lines' in payload)) return payload as Payload;
    const { lines, ...rest } = payload;
    return { ...rest, body: lines.join('\n') } as Payload;
  });

/** Payloads that were looked at while the readers were written. All names in them are invented. */
export const tuned = sent<Labelled>(allTuned);
/** Payloads kept unseen while the readers were tuned: they tell how well the readers do on what nobody looked at. */
export const held = sent<Labelled>(allHeld);
/** A second batch that was unseen at first. */
export const later = sent<Labelled>(allLater);
/** Payloads written last and never tuned for. When the readers are worked on, write new ones instead of mending for these. */
export const fresh = sent<Labelled>(allFresh);
/** Written after the readers were last worked on, measured, and left alone. */
export const unseen = sent<Labelled>(allUnseen);
/** Written when the reading was done, all of them before any was read; what failed was mended afterwards. */
export const sixty = sent<Written>(allSixty);
/** Thirty more, written when those above had been mended for: a first result of their own, told in the bench as well. */
export const thirty = sent<Written>(allThirty);
