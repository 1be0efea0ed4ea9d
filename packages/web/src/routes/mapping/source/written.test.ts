import type { PlainSegment, Segment } from '@grammata/core/route';
import fc from 'fast-check';
import type { Offered } from '../../workbench';
import { answerMark, meantBy, readable, segmentsOf, strangersIn, withAnswers, writtenOf } from './written';

const offered = (key: string, label: string): Offered => ({
  key,
  label,
  kind: 'text',
  group: 'question',
  isQuestion: true,
  example: null,
});
/** Wordings that a text could be mistaken for, and two that are alike. */
const references = [
  offered('name', '{{name}}'),
  offered('q1', 'Rate {1-5}'),
  offered('q2', 'Which site?'),
  offered('q3', 'Which site?'),
  offered('q4', '?odd'),
  offered('town', 'Town'),
];

test.each<[string, Segment[]]>([
  ['an answer worded with braces', [{ text: 'Dear ' }, { field: 'name' }, { text: ', {{so}}' }]],
  ['two answers worded alike', [{ field: 'q2' }, { text: ' and ' }, { field: 'q3' }]],
  ['a part', [{ text: 'Seen' }, { part: [{ text: ' in ' }, { field: 'town' }] }]],
  ['one that begins with ?', [{ field: 'q4' }, { text: '{?' }]],
  ['a question that is gone', [{ field: 'gone' }]],
])('%s is written and read as it is', (_, segments) => expect(segmentsOf(writtenOf(segments))).toEqual(segments));

const plain = fc.oneof(
  fc.record({ text: fc.stringMatching(/^[a-c{}? \n]{1,6}$/) }),
  fc.record({ field: fc.constantFrom('q1', 'q2', 'name', '{', '?}') }),
);
const merged = (all: readonly Segment[]) => JSON.stringify(segmentsOf(writtenOf(all)));
test('whatever is typed around them, answers stay the answers they are', () => {
  const segments = fc.array(fc.oneof(plain, fc.record({ part: fc.array(plain, { minLength: 1 }) })));
  const fieldsOf = (all: readonly Segment[]): string[] =>
    all.flatMap(each => ('part' in each ? fieldsOf(each.part) : 'field' in each ? [each.field] : []));
  fc.assert(
    fc.property(segments, fc.nat(), fc.stringMatching(/^[a-z{}?]{0,3}$/), (all, at, typed) => {
      const written = writtenOf(all);
      // Answers are passed over as a whole: nothing is typed within one.
      const places = [...written.matchAll(/\ue000[^\ue001]*\ue001|[^]/g)].map(({ index }) => index);
      const place = places[at % Math.max(1, places.length)] ?? 0;
      const after = segmentsOf(written.slice(0, place) + typed + written.slice(place));
      expect(fieldsOf(after)).toEqual(fieldsOf(all));
      // What is read once is read the same ever after: the editor does not start anew.
      const once = segmentsOf(written);
      expect(merged(once)).toBe(JSON.stringify(once));
    }),
  );
});

test.each<[string, string, Segment[]]>([
  ['an answer', 'in {Town}', [{ text: 'in ' }, { field: 'town' }]],
  ['its key', '{town}', [{ field: 'town' }]],
  ['a part', '{?, of {Town}?}', [{ part: [{ text: ', of ' }, { field: 'town' }] }]],
  ['one of two that are worded alike', '{Which site? (q3)}', [{ field: 'q3' }]],
  ['either of two', '{Which site?}', [{ text: '{Which site?}' }]],
  ['nothing that is asked', '{Nobody}', [{ text: '{Nobody}' }]],
  ['a part without an answer', '{?so?}', [{ text: '{?so?}' }]],
  ['a part that does not end', '{?so {Town}', [{ text: '{?so ' }, { field: 'town' }]],
  ['one that never began', '{Town}?}', [{ field: 'town' }, { text: '?}' }]],
  ['marks of the editor', '\ue000x\ue001', [{ text: 'x' }]],
])('typed: %s', (_, typed, segments) => expect(segmentsOf(withAnswers(typed, references))).toEqual(segments));

test('what is copied reads as it would be typed', () => {
  const written = writtenOf([{ text: 'At ' }, { field: 'q3' }, { part: [{ field: 'town' }, { text: '!' }] }]);
  const copied = readable(written, references);
  expect(copied).toBe('At {Which site? (q3)}{?{Town}!?}');
  expect(withAnswers(copied, references)).toBe(written);
});

test('what looks like an answer and is none is told, and whether several could be meant', () => {
  const segments: PlainSegment[] = [{ text: '{Nobody} {Which site?}' }, { field: 'town' }];
  expect(strangersIn(segments, references)).toEqual([
    { wording: 'Nobody', isSeveral: false },
    { wording: 'Which site?', isSeveral: true },
  ]);
  expect(meantBy('Town', references)).toEqual(['town']);
  expect(answerMark('town')).not.toContain('Town');
});
