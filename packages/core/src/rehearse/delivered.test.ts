import fc from 'fast-check';
import { compileCondition } from '../condition';
import { foresee, likelyAnswers, type Ask } from '../perform';
import { scopeOf } from '../scope';
import type { JsonObject } from '../submission';
import { conditions, delivered, described, roster, rosterOperations, routes, stagesOf, submissions } from '../testing';
import { RouteRehearser, type Sample } from '.';

// What the rehearsal says will happen is what the delivery does, against a target that behaves as it is described.

const operationOf = (key: string) => rosterOperations.find(each => each.id === key)!;

test('whether a submission can be sent: the rehearsal over all samples says what delivery does', () => {
  let [sent, held] = [0, 0];
  fc.assert(
    fc.property(routes, conditions, fc.array(submissions, { minLength: 1, maxLength: 4 }), (calls, condition, all) => {
      const samples = all.map((submission, at): Sample => ({
        id: `s${at}`,
        receivedAt: '2026-11-04T08:00:00Z',
        submission,
      }));
      const summary = new RouteRehearser(samples).rehearse({
        condition,
        calls: calls.map(call => ({
          call,
          operation: operationOf(call.operationId),
          ...(call.find && { finder: operationOf('find') }),
          baseUrl: roster.baseUrl,
        })),
        context: { timeZone: 'UTC' },
      });
      all.forEach((submission, at) => {
        expect(summary.goes[at] === 1).toBe(compileCondition(condition)(scopeOf(submission)));
        if (summary.goes[at] !== 1) return;
        const { asks, ending } = delivered(stagesOf(calls), submission, described());
        const isHeld =
          asks.length === 0 &&
          'held' in ending &&
          foresee(stagesOf(calls), submission, { timeZone: 'UTC' }).problems.length > 0;
        expect(summary.sends[at] === 1).toBe(!isHeld);
        if (isHeld) held++;
        else sent++;
      });
    }),
    { numRuns: 200 },
  );
  // Both were seen often: it is no test of one of them.
  expect(Math.min(sent, held)).toBeGreaterThan(50);
});

test('however samples come in and whatever is edited meanwhile, it is as if all had been there at once', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.array(submissions, { maxLength: 4 }), routes, conditions), { minLength: 1, maxLength: 4 }),
      steps => {
        const rehearser = new RouteRehearser();
        const all: Sample[] = [];
        for (const [portion, calls, condition] of steps) {
          const samples = portion.map((submission, at): Sample => ({
            id: `s${all.length + at}`,
            receivedAt: '2026-11-04T08:00:00Z',
            submission,
          }));
          all.push(...samples);
          rehearser.add(samples);
          for (const [last] of [[calls], [steps[0]![1]]] as const) {
            const route = {
              condition,
              calls: last.map(call => ({
                call,
                operation: operationOf(call.operationId),
                ...(call.find && { finder: operationOf('find') }),
                baseUrl: roster.baseUrl,
              })),
              context: { timeZone: 'UTC' },
            };
            expect(rehearser.rehearse(route)).toEqual(new RouteRehearser(all).rehearse(route));
          }
        }
      },
    ),
    { numRuns: 150 },
  );
});

test('the same requests, the same blanks: what was foreseen of a request is what is sent', () => {
  let compared = 0;
  fc.assert(
    fc.property(routes, submissions, (calls, submission) => {
      const compiled = stagesOf(calls);
      const { requests, problems } = foresee(compiled, submission, { timeZone: 'UTC' });
      const { asks, ending } = delivered(compiled, submission, described());
      if (problems.length > 0) return expect([asks, ending]).toEqual([[], { held: problems, done: [] }]);
      for (const ask of asks.filter(each => each.purpose === 'find' || each.purpose === 'create')) {
        const stage = compiled.find(each => each.call.id === ask.callId)!;
        if (stage.waits) continue;
        const foreseen = requests.find(
          each => each.callId === ask.callId && each.item === ask.item && each.purpose === ask.purpose,
        )!;
        const lines = (ask.purpose === 'find' ? stage.find!.call : stage.main).lines.filter(each => !each.waits);
        const written = (request: Ask['request']) =>
          lines.flatMap(({ line, field }) =>
            field && !field.in
              ? [[line.to, (request.body as JsonObject)[field.key], request.origins[field.pointer]]]
              : [],
          );
        expect(written(ask.request)).toEqual(written(foreseen.planned.request));
        if (!(ask.purpose === 'find' ? stage.find!.call : stage.main).lines.some(each => each.waits)) {
          expect(ask.request).toEqual(foreseen.planned.request);
          compared++;
        }
      }
    }),
    { numRuns: 200 },
  );
  expect(compared).toBeGreaterThan(100);
});

test('a run that is not sent makes the requests of one that is, but for what answers alone tell', () => {
  fc.assert(
    fc.property(routes, submissions, (calls, submission) => {
      const compiled = stagesOf(calls);
      const real = delivered(compiled, submission, described());
      const likely = likelyAnswers(compiled.map(({ call, main }) => ({ call, operation: main.operation })));
      const world = described();
      const dry = delivered(compiled, submission, ask =>
        ask.purpose === 'find' ? world(ask) : { answer: likely[ask.callId] ?? null },
      );
      const told = compiled.some(
        ({ main, find, waits }) => waits || find !== null || main.lines.some(each => each.waits),
      );
      const shape = ({ callId, item, purpose, request: { method } }: Ask) => [callId, item, purpose, method];
      if (!told) {
        expect(dry.asks.map(shape)).toEqual(real.asks.map(shape));
        expect(dry.asks.map(each => each.request)).toEqual(real.asks.map(each => each.request));
        expect('held' in dry.ending).toBe('held' in real.ending);
      } else expect(dry.asks[0] && shape(dry.asks[0])).toEqual(real.asks[0] && shape(real.asks[0]));
    }),
    { numRuns: 200 },
  );
});
