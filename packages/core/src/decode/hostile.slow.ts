import { decode } from '.';

// A call takes some hundred thousand arguments at most: nothing is handed over one argument each. These take long to read; rows, lines and
// pairs are tried with every run (`hostile.test.ts`).
const many = 130_000;
test.each<[string, string, () => string]>([
  [
    'submissions',
    'application/json',
    () => JSON.stringify(Array.from({ length: many }, (_, n) => ({ id: `r${n}`, a: 'x y' }))),
  ],
  [
    'members of one object',
    'application/json',
    () => `{${Array.from({ length: many }, (_, n) => `"k${n}":"a b"`).join()}}`,
  ],
  [
    'answers in one list',
    'application/json',
    () =>
      JSON.stringify({ id: 'e1', answers: Array.from({ length: many }, (_, n) => ({ q: `What ${n}?`, a: 'x y' })) }),
  ],
])('%s', (_, type, body) => {
  const { notes, submissions } = decode(new TextEncoder().encode(body()), type);
  expect(notes.map(each => each.code)).not.toContain('envelope.failed');
  expect(submissions.length).toBeGreaterThan(0);
  // What is beyond what is read is told, whatever it is.
  expect(notes.map(each => each.message)).toContainEqual(expect.stringMatching(/more than .*; the rest was not read/));
});
