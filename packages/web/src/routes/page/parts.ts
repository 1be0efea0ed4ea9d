import { replace, type RouteObject } from 'react-router';
import { PartBroken } from './PartBroken';

const pages = () => import('./pages');
type Pages = Awaited<ReturnType<typeof pages>>;

/** A component of the route's page, loaded when one is gone to. */
export const page = (name: keyof Pages) => async () => ({ Component: (await pages())[name] });

const part = (path: string, name: keyof Pages): RouteObject => ({ path, lazy: page(name), ErrorBoundary: PartBroken });

/** The parts of a route, each breaking by itself. */
export const parts: RouteObject[] = [
  {
    index: true,
    loader: ({ params, request }) => replace(`/routes/${params.id}/mapping${new URL(request.url).search}`),
  },
  part('mapping', 'Mapping'),
  part('filter', 'Filter'),
  part('delivery', 'Delivery'),
  part('sheet', 'HandoverSheet'),
  part('proofs', 'Proofs'),
  part('test', 'Test'),
  part('rehearsal', 'RehearsalTable'),
  part('versions', 'Versions'),
  part('*', 'NoSuchPart'),
];
