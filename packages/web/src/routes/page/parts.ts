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
    loader: ({ params, request }) => replace(`/routes/${params.id}/what${new URL(request.url).search}`),
  },
  part('what', 'What'),
  part('when', 'When'),
  part('how', 'How'),
  part('sheet', 'HandoverSheet'),
  part('proofs', 'Proofs'),
  part('tryout', 'Tryout'),
  part('rehearsal', 'RehearsalTable'),
  part('versions', 'Versions'),
  part('*', 'NoSuchPart'),
];
