import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createBrowserRouter, RouterProvider, type RouteObject } from 'react-router';
import { ApiFault, keys } from './api';
import { Gate, sessionQuery } from './access/Gate';
import { Broken } from './app/Broken';
import { NotHere } from './app/NotHere';
import { Shell } from './app/Shell';
import { askAhead } from './routes/samples/ahead';
import { page, parts } from './routes/page/parts';
import { routeQuery } from './routes/queries';
import { warmUp } from './routes/rehearsal/warm';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (tries, error) => !(error instanceof ApiFault) && tries < 3,
      staleTime: 5000,
      refetchOnWindowFocus: false,
    },
  },
  queryCache: new QueryCache({
    onError: error => {
      if (error instanceof ApiFault && error.problem.status === 401)
        void client.invalidateQueries({ queryKey: keys.session });
    },
  }),
});

void client.prefetchQuery(sessionQuery);

/** Every place is loaded when it is first gone to. */
const places: RouteObject[] = [
  { index: true, lazy: async () => ({ Component: (await import('./desk/Desk')).Desk }) },
  { path: 'intakes', lazy: async () => ({ Component: (await import('./intakes/IntakeList')).IntakeList }) },
  { path: 'intakes/:id', lazy: async () => ({ Component: (await import('./intakes/IntakePage')).IntakePage }) },
  { path: 'forms', lazy: async () => ({ Component: (await import('./forms/FormList')).FormList }) },
  { path: 'forms/:id', lazy: async () => ({ Component: (await import('./forms/FormPage')).FormPage }) },
  {
    path: 'arrivals/:id',
    lazy: async () => ({ Component: (await import('./intakes/arrival/ArrivalRedirect')).ArrivalRedirect }),
  },
  { path: 'routes', lazy: async () => ({ Component: (await import('./routes/list/RouteList')).RouteList }) },
  {
    path: 'routes/:id',
    // What it is about is asked for while its program is still being loaded.
    loader: ({ params: { id } }) => {
      warmUp();
      const isBeginning = document.readyState !== 'complete';
      void client.fetchQuery(routeQuery(id!)).then(
        route => isBeginning && askAhead(route.formId),
        () => undefined,
      );
      return null;
    },
    shouldRevalidate: ({ currentParams, nextParams }) => currentParams.id !== nextParams.id,
    lazy: page('RoutePage'),
    children: parts,
  },
  {
    path: 'workspace',
    lazy: async () => ({ Component: (await import('./workspace/WorkspacePage')).WorkspacePage }),
  },
  { path: 'targets', lazy: async () => ({ Component: (await import('./targets/TargetList')).TargetList }) },
  { path: 'targets/:id', lazy: async () => ({ Component: (await import('./targets/TargetPage')).TargetPage }) },
  {
    path: 'targets/:id/operation',
    lazy: async () => ({ Component: (await import('./targets/operation/OperationPage')).OperationPage }),
  },
  {
    path: 'deliveries',
    lazy: async () => ({ Component: (await import('./deliveries/list/DeliveryList')).DeliveryList }),
  },
  {
    path: 'deliveries/:id',
    lazy: async () => ({ Component: (await import('./deliveries/page/DeliveryPage')).DeliveryPage }),
  },
  { path: 'changes', lazy: async () => ({ Component: (await import('./changes/Changes')).Changes }) },
  {
    path: 'changes/compare',
    lazy: async () => ({ Component: (await import('./changes/compare/Compare')).Compare }),
  },
  { path: 'practice', lazy: async () => ({ Component: (await import('./practice/Practice')).Practice }) },
  { path: '*', Component: NotHere },
];

const router = createBrowserRouter([
  {
    path: '/',
    element: (
      <Gate>
        <Shell />
      </Gate>
    ),
    ErrorBoundary: Broken,
    // A place that breaks stays by itself: the way to the others remains.
    children: [{ ErrorBoundary: Broken, children: places }],
    HydrateFallback: () => null,
  },
]);

export function App() {
  return (
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  );
}
