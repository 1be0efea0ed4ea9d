/** The keys of all that is asked of the server: what stands before is what an event, or a change made here, has read again. */
export const keys = {
  session: ['session'],
  strip: ['strip'],
  desk: ['desk'],
  pace: ['desk', 'pace'],
  things: ['things'],
  find: (wanted: string) => ['find', wanted],
  practice: ['practice'],
  strays: ['strays'],
  changes: ['changes'],
  intakes: {
    all: ['intakes'],
    list: ['intakes', 'list'],
    one: (id: string) => ['intakes', id],
  },
  arrivals: {
    all: ['arrivals'],
    of: (intakeId: string) => ['arrivals', intakeId],
  },
  arrival: {
    all: ['arrival'],
    one: (id: string | null) => ['arrival', id],
  },
  pins: (intakeId: string, arrivalId: string | null, pins: unknown) => ['pins', intakeId, arrivalId, pins],
  forms: {
    all: ['forms'],
    list: ['forms', 'list'],
    one: (id: string) => ['forms', id],
    view: (id: string | null) => ['forms', id, 'view'],
    weeks: (id: string) => ['forms', id, 'weeks'],
  },
  samples: {
    all: ['samples'],
    of: (formId: string) => ['samples', formId],
    found: (formId: string, search: string) => ['samples', formId, search],
  },
  routes: {
    all: ['routes'],
    list: ['routes', 'list'],
    view: (id: string) => ['routes', id, 'view'],
    versions: (id: string) => ['routes', id, 'versions'],
    refusals: (id: string) => ['routes', id, 'refusals'],
    allResponses: (id: string) => ['routes', id, 'responses'],
    responses: (id: string, callId: string) => ['routes', id, 'responses', callId],
    proofs: (id: string) => ['routes', id, 'proofs'],
    batch: (id: string) => ['routes', id, 'batch'],
  },
  targets: {
    all: ['targets'],
    offered: ['targets', 'offered'],
    one: (id: string) => ['targets', id],
    operation: (id: string, operationId: string | null) => ['targets', id, 'operation', operationId],
  },
  deliveries: {
    all: ['deliveries'],
    page: (filter: Record<string, string>, page: number) => ['deliveries', filter, page],
    newestOf: (routeId: string) => ['deliveries', 'newest', routeId],
  },
  delivery: {
    all: ['delivery'],
    one: (id: string) => ['delivery', id],
  },
  work: {
    all: ['work'],
    about: (about: Record<string, string>) => ['work', about],
  },
  recorded: (routeId: string, selection: unknown) => ['recorded', routeId, selection],
  /** What is really asked of a target or a builder: no event has it asked again. */
  asked: {
    all: ['asked'],
    choices: (targetId: string, operationId: string) => ['asked', 'choices', targetId, operationId],
    runs: (routeId: string) => ['asked', 'run', routeId],
    run: (routeId: string, revision: number, sampleId: string | undefined) => [
      'asked',
      'run',
      routeId,
      revision,
      sampleId,
    ],
    files: (routeId: string) => ['asked', 'files', routeId],
  },
} as const;
