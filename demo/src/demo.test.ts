import { decode } from '@grammata/core/decode';
import { rehearse, type Sample } from '@grammata/core/rehearse';
import { readDiscovery, usualRecipe } from '@grammata/core/target';
import type { Json } from '@grammata/core/submission';
import { answerListMessage, samplingReport, tables } from '@grammata/practice';
import { pastReports, REPORTS, toFollowUps, toRegister } from '.';

const until = Date.parse('2026-11-24T12:00:00Z');
const reports = pastReports(until);
const samples: Sample[] = reports.map(({ filled, receivedAt }) => {
  const { body, contentType } = answerListMessage(samplingReport, filled);
  const [submission] = decode(new TextEncoder().encode(body), contentType).submissions;
  return { id: filled.entry, receivedAt: new Date(receivedAt).toISOString(), submission: submission! };
});
const operations = (
  readDiscovery({ tables } as unknown as Json, usualRecipe) as {
    operations: Parameters<typeof rehearse>[0]['operation'][];
  }
).operations;
const rehearsalOf = (draft: ReturnType<typeof toRegister>) => {
  const operation = operations.find(each => each.id === draft.call.operationId)!;
  return rehearse(
    {
      condition: draft.condition,
      call: draft.call,
      operation,
      baseUrl: 'http://127.0.0.1',
      context: { timeZone: draft.terms.timeZone },
    },
    samples,
  );
};

test('the demo is the same at every start, up to date, and at least 120 reports long', () => {
  expect(pastReports(until)).toEqual(reports);
  expect(new Set(reports.map(report => report.filled.entry)).size).toBe(REPORTS);
  expect(REPORTS).toBeGreaterThanOrEqual(120);
  expect(Math.max(...reports.map(report => report.receivedAt))).toBeLessThan(until);
  expect(reports.map(report => report.receivedAt)).toEqual(
    reports.map(report => report.receivedAt).sort((a, b) => a - b),
  );
});

test('every answer that was given is read back from the payload', () => {
  reports.forEach(({ filled }, index) => {
    const { submission } = samples[index]!;
    const { s12: docs, ...answers } = filled.answers;
    const read = Object.fromEntries(submission.fields.map(field => [field.key, field.value]));
    expect(read).toEqual(
      Object.fromEntries(
        Object.entries(answers).map(([key, value]) => [key, typeof value === 'string' ? value.trim() : value]),
      ),
    );
    expect(submission.files.map(file => file.name)).toEqual(((docs ?? []) as { name: string }[]).map(doc => doc.name));
  });
});

test('only invented addresses: example.org and telephone numbers kept for fiction', () => {
  for (const { filled } of reports) {
    expect(String(filled.answers.s9)).toMatch(/@example\.org$/i);
    const digits = String(filled.answers.s10 ?? '').replace(/\D/g, '');
    if (digits) expect(digits).toMatch(/7946\d{4}$/);
  }
});

test('the live route sends most, and the rest is in trouble for reasons people can see', () => {
  const rehearsal = rehearsalOf(toRegister('t'));
  expect(rehearsal.missing).toEqual([]);
  expect(rehearsal.sendable / rehearsal.going).toBeGreaterThan(0.9);
  expect(rehearsal.sendable).toBeLessThan(rehearsal.going);
});

test('the draft holds two problems to find: an unfilled column, and dates read month first', () => {
  const rehearsal = rehearsalOf(toFollowUps('t'));
  expect(rehearsal.missing).toEqual(['urgency']);
  expect(rehearsal.lines.find(line => line.lineId === 'line-reported_on')!.trouble).toBeGreaterThan(10);
});
