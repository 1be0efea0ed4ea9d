import type { CallInput } from '@grammata/contract';
import { likelyAnswers } from '@grammata/core/perform';
import {
  isRehearsed,
  isTroubled,
  placeOfLine,
  scopesFor,
  stateOf,
  type RehearsalSummary,
} from '@grammata/core/rehearse';
import { fieldsOf } from '@grammata/core/route';
import { referredTo, scopeOf } from '@grammata/core/scope';
import { asText, type Submission } from '@grammata/core/submission';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Shelved } from '../samples';
import { SeenLater } from './seen';
import { useParam } from '../../address';
import { useLatest } from '../../ui';
import { useSame } from './useSame';
import type { CallAtHand, Seen, Walk } from './workbench';

/** ms for which a search keeps the page at a time. */
const SLICE = 12;

/** The walk over the samples as a call sees them: the sample that the address names, its items, and the next of a kind. */
export function useWalk(
  shelved: readonly Shelved[],
  calls: CallInput[],
  { call, operationOf, targetOf }: CallAtHand,
  rehearsal: RehearsalSummary | null,
): Walk {
  const [chosenId, choose] = useParam('sample');
  /** The sample that was the newest at first: what arrives meanwhile does not take its place. */
  const [firstId, setFirstId] = useState<string | null>(null);
  const [itemAt, setItemAt] = useState(0);
  const { repeat, condition, lines } = call;
  // Edits that change nothing of what calls answer leave the samples as they are seen.
  const answers = useSame(
    useMemo(
      () =>
        likelyAnswers(
          calls.flatMap(each => {
            const offered = operationOf(each);
            const answered = targetOf(each)?.answers[each.operationId];
            return offered ? [{ call: each, operation: offered, ...(answered !== undefined && { answered }) }] : [];
          }),
        ),
      [calls, operationOf, targetOf],
    ),
  );
  const isPlain = calls.length === 1 && !repeat && !condition;
  const scopesIn = useMemo(
    () => scopesFor({ call: { repeat, condition } as CallInput, answers }),
    [repeat, condition, answers],
  );
  const seenIn = useCallback(
    (submission: Submission) => (isPlain ? undefined : scopesIn(submission)[0]) ?? scopeOf(submission, answers),
    [isPlain, scopesIn, answers],
  );
  const samples = useMemo(() => shelved.map((each): Seen => new SeenLater(each, seenIn)), [shelved, seenIn]);
  if (firstId === null && samples[0]) setFirstId(samples[0].id);
  const wantedId = chosenId ?? firstId;
  const found = useMemo(() => samples.findIndex(each => each.id === wantedId), [samples, wantedId]);
  // The newest stands in for the first where that is gone, never for one that somebody asked for.
  const at = found < 0 && chosenId === null ? 0 : found;
  const show = useCallback(
    (index: number) => {
      const sample = samples[Math.min(samples.length - 1, Math.max(0, index))];
      setItemAt(0);
      if (sample) choose(sample.id);
    },
    [samples, choose],
  );
  // Held by what it is: others that come leave it as it is seen.
  const held = shelved[at];
  const shown = useMemo(() => (held ? new SeenLater(held, seenIn) : null), [held, seenIn]);
  const absent = chosenId !== null && found < 0;
  const scopes = useMemo(() => (shown && !isPlain ? scopesIn(shown.submission) : []), [shown, isPlain, scopesIn]);
  const items = useMemo(
    () => ({
      at: Math.min(itemAt, Math.max(0, scopes.length - 1)),
      count: isPlain ? 1 : scopes.length,
      show: setItemAt,
    }),
    [itemAt, scopes, isPlain],
  );
  const itemScope = scopes[items.at];
  const sample = useMemo((): Seen | null => {
    if (!shown) return null;
    const { id, receivedAt, place, name, isVariant, submission, scope } = shown;
    return { id, receivedAt, place, name, isVariant, submission, scope: itemScope ?? scope };
  }, [shown, itemScope]);
  // What is looked for is looked for in what is there when somebody asks: an edit makes no other walk.
  const now = useLatest({ samples, at, rehearsal, lines });
  const searches = useRef(0);
  useEffect(() => () => void searches.current++, []);
  const { nextInTrouble, nextThatDiffers } = useMemo(() => {
    const showNext = (wanted: (index: number) => boolean) => {
      const { samples: all, at: here } = now.current;
      const next = all.map((_, index) => (here + 1 + index) % all.length).find(wanted);
      if (next !== undefined) show(next);
    };
    return {
      nextInTrouble: (lineIndex?: number) =>
        showNext(index => {
          const { samples: all, rehearsal: run, lines: drawn } = now.current;
          const { place } = all[index]!;
          if (!run || !isRehearsed(run, place) || run.goes[place] !== 1) return false;
          const line = lineIndex === undefined ? -1 : placeOfLine(run, drawn[lineIndex]!.id);
          return line < 0 ? isTroubled(run, place) : stateOf(run, line, place) === 'trouble';
        }),
      nextThatDiffers: (lineIndex?: number) => {
        const { samples: all, at: here, lines: drawn } = now.current;
        const looked = drawn.filter((_, index) => lineIndex === undefined || index === lineIndex);
        const keys = looked.flatMap(line => fieldsOf(line.source));
        const answered = (index: number) => keys.map(key => asText(referredTo(all[index]!.scope, key))).join('\n');
        const wanted = here >= 0 && all.length > 0 ? answered(here) : '';
        const mine = ++searches.current;
        // Thousands may be alike, and each is unpacked to be seen: the page goes on meanwhile, and another search ends this one.
        const search = (from: number): void => {
          const until = performance.now() + SLICE;
          for (let step = from; step < all.length; step++) {
            const index = (here + 1 + step) % all.length;
            if (answered(index) !== wanted) return show(index);
            if (performance.now() > until) return void setTimeout(() => searches.current === mine && search(step + 1));
          }
        };
        search(0);
      },
    };
  }, [show, now]);
  return useMemo(
    () => ({
      samples,
      sample,
      absent,
      at,
      items,
      show,
      showPlace: place => show(samples.findIndex(each => each.place === place)),
      // One that is not here says so: no other is shown in its place.
      showSample: id => {
        setItemAt(0);
        choose(id);
      },
      nextInTrouble,
      nextThatDiffers,
    }),
    [samples, sample, absent, at, items, show, choose, nextInTrouble, nextThatDiffers],
  );
}
