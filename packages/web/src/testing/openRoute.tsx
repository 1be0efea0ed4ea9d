import type { RouteView, SamplePage } from '@grammata/contract';
import { RouteRehearser } from '@grammata/core/rehearse';
import { newLine, ROUTE_FORMAT, usualTerms, type Line } from '@grammata/core/route';
import { pack, unpack } from '@grammata/core/sample';
import { inferSchema } from '@grammata/core/schema';
import type { TargetType } from '@grammata/core/target';
import { targetField } from '@grammata/core/testing';
import type { Submission } from '@grammata/core/submission';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { configure, render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { Keys } from '../app/keys';
import type { Asked, RehearsalInput } from '../routes/rehearsal/rehearsal.worker';
import { WorkbenchOf } from '../routes/workbench';
import { ExactTimes, Tips } from '../ui';
import type { Reply, Sent } from '../workers';

// A busy machine takes its time.
configure({ asyncUtilTimeout: 20_000 });

/** Answers to questions, by their keys. */
export type Answers = Record<string, string>;

const submissionOf = (answers: Answers, n: number): Submission => {
  const fields = Object.entries(answers).map(([key, value]) => ({
    key,
    label: key,
    kind: 'text' as const,
    value,
    pointer: `/${key}`,
  }));
  const questions = fields.map(({ key, label, pointer }) => ({ key, label, pointer }));
  return { form: null, id: `s${n}`, submittedAt: null, meta: {}, files: [], questions, fields };
};

/** Rehearses where it stands: a thread of its own is not needed to know what is shown. */
export class RehearsesHere {
  onmessage: ((message: { data: Reply<unknown> }) => void) | null = null;
  onerror = null;
  #rehearser = new RouteRehearser();
  postMessage(sent: Sent<RehearsalInput, Asked>): void {
    if ('asked' in sent) {
      const answer = this.#rehearser.rehearse(sent.asked.route);
      queueMicrotask(() => this.onmessage?.({ data: { answer } }));
    } else if ('anew' in sent.told) this.#rehearser = new RouteRehearser();
    else {
      const { page } = sent.told;
      this.#rehearser.add(
        page.rows.map(row => ({ id: row.sampleId, receivedAt: row.receivedAt, submission: unpack(page, row) })),
      );
    }
  }
  terminate(): void {
    this.onmessage = null;
  }
}

/** A route from a form to a table, over these submissions, the newest first; each line by the field that it fills. */
export function routeOf(
  submissions: readonly Answers[],
  lines: Record<string, Partial<Line>>,
  types: Record<string, TargetType> = {},
): RouteView {
  const schema = inferSchema(submissions.map(submissionOf));
  const fields = Object.keys(lines).map(to => targetField(to, { type: types[to] ?? 'text' }));
  const operation = { id: 'o', label: 'Add a record', method: 'POST' as const, path: '/r', fields };
  return {
    id: 'r',
    name: 'Reports',
    state: 'draft',
    formId: 'f',
    formName: 'Report',
    revision: 1,
    version: null,
    changed: false,
    targetsChanged: [],
    liveSince: null,
    trial: null,
    form: { id: 'f', name: 'Report', schema },
    targets: [
      {
        id: 't',
        name: 'Register',
        baseUrl: 'https://register.example.org',
        auth: { kind: 'none' },
        hasToken: false,
        operations: [operation],
        answers: {},
      },
    ],
    draft: {
      format: ROUTE_FORMAT,
      name: 'Reports',
      condition: { all: [] },
      terms: usualTerms,
      calls: [
        {
          id: 'c',
          targetId: 't',
          operationId: 'o',
          lines: Object.entries(lines).map(([to, line]) => ({ ...newLine(`l-${to}`, to), ...line })),
        },
      ],
    },
  } as unknown as RouteView;
}

/** What the server has, as far as it is asked: samples by column, and nothing of anything else. */
export function serve(submissions: readonly Answers[]): jest.Mock {
  const packed = pack(submissions.map(submissionOf));
  const page: SamplePage = {
    columns: packed.columns,
    rows: packed.rows.map((row, n) => ({
      ...row,
      sampleId: `s${n}`,
      receivedAt: new Date(1.8e12 - n * 60_000).toISOString(),
      name: null,
      kept: false,
      arrivalId: `a${n}`,
      isVariant: false,
    })),
    total: submissions.length,
    next: null,
    newest: 's0',
  };
  const none = { ...page, rows: [] };
  const asked = jest.fn((address: string) => {
    const answer = address.endsWith('/columns?limit=100') ? page : address.includes('/columns?') ? none : [];
    return Promise.resolve(new Response(JSON.stringify(answer), { status: 200 }));
  });
  globalThis.fetch = asked as unknown as typeof fetch;
  return asked;
}

/** Opens a route, with something of it shown; gives the router, whose address can be looked at and changed. */
export function openRoute(route: RouteView, shown: ReactNode, address = '/') {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const page = (
    <ExactTimes>
      <Tips>
        <Keys>
          <WorkbenchOf route={route}>{shown}</WorkbenchOf>
        </Keys>
      </Tips>
    </ExactTimes>
  );
  const router = createMemoryRouter([{ path: '*', element: page }], { initialEntries: [address] });
  render(
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  return router;
}
