import { decode } from '@grammata/core/decode';
import { Rehearser, type CallParts, type Sample } from '@grammata/core/rehearse';
import { readDiscovery, usualRecipe } from '@grammata/core/target';
import type { Json } from '@grammata/core/submission';
import { catalogue, tables } from '@grammata/practice';
import {
  pastAccessRows,
  pastAlerts,
  pastKitRequests,
  pastReports,
  pastSignUps,
  pastVisits,
  REPORTS,
  type PastAnswer,
  toFollowUps,
  toRegister,
} from '.';

const until = Date.parse('2026-11-24T12:00:00Z');
const reports = pastReports(until);
const carriedBy = (id: string) => catalogue.find(each => each.id === id)!;
const samples: Sample[] = reports.map(({ filled, receivedAt }) => {
  const { form, kind } = carriedBy('sampling-report');
  const { body, contentType } = kind.message!(form, filled, { generation: 'now', method: 'POST' });
  const [submission] = decode(body, contentType).submissions;
  return { id: filled.entry, receivedAt: new Date(receivedAt).toISOString(), submission: submission! };
});
const operations = (
  readDiscovery({ tables } as unknown as Json, usualRecipe) as {
    operations: CallParts['operation'][];
  }
).operations;
const rehearsalOf = (draft: ReturnType<typeof toRegister>) => {
  const operation = operations.find(each => each.id === draft.calls[0]!.operationId)!;
  return new Rehearser(samples).rehearse({
    condition: draft.condition,
    call: draft.calls[0]!,
    operation,
    baseUrl: 'http://127.0.0.1',
    context: { timeZone: draft.terms.timeZone },
  });
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

describe('the other forms', () => {
  const pushed: [builder: string, past: PastAnswer[]][] = [
    ['volunteer-sign-up', pastSignUps(until)],
    ['kit-request', pastKitRequests(until)],
    ['incident-alert', pastAlerts(until)],
  ];
  const ways = pushed.flatMap(([builder, past]) =>
    (['now', 'earlier'] as const).flatMap(generation =>
      (carriedBy(builder).kind.choosesMethod ? (['POST', 'GET'] as const) : (['POST'] as const)).map(
        method => [builder, generation, method, past] as const,
      ),
    ),
  );

  test.each(ways)(
    '%s, %s, by %s: every text that was given is read, and nothing else',
    (builder, generation, method, past) => {
      const { form, kind } = carriedBy(builder);
      for (const { filled } of past) {
        const { body, contentType, query } = kind.message!(form, filled, { generation, method });
        const [submission] = decode(body, contentType || null, query).submissions;
        const texts = JSON.stringify(submission!.fields.map(field => field.value));
        for (const answer of Object.values(filled.answers).flat())
          if (typeof answer === 'string') expect(texts).toContain(JSON.stringify(answer.trim()).slice(1, -1));
        const files = (filled.answers.evidence ?? []) as { name: string }[];
        expect(submission!.files.map(file => file.name)).toEqual(files.map(file => file.name));
        expect(submission!.id).toBe(filled.entry);
      }
    },
  );

  test('rows of the access log and mails hold what was given', () => {
    const log = carriedBy('site-access-log');
    const rows = pastAccessRows(until).map(({ filled }) => log.kind.row!(log.form, filled));
    const read = decode(Buffer.from(JSON.stringify({ log: 'x', rows, more: { after: null } })), 'application/json');
    expect(read.submissions.map(each => each.id)).toEqual(rows.map(row => row.row_id));
    const { form, kind } = carriedBy('school-visit');
    for (const { filled } of pastVisits(until)) {
      const { text } = kind.notification!(form, filled, { generation: 'now', method: 'POST' });
      const [visit] = decode(Buffer.from(text!), 'text/plain').submissions;
      expect(visit!.fields.find(each => each.label === 'School')?.value).toBe(filled.answers.e1);
    }
  });
});
