import { replace, type RouteObject } from 'react-router';
import { PartBroken } from './PartBroken';

const part = (path: string, load: () => Promise<RouteObject['Component']>): RouteObject => ({
  path,
  lazy: async () => ({ Component: await load() }),
  ErrorBoundary: PartBroken,
});

/** The parts of a route, each loaded when it is first looked at, and each breaking by itself. */
export const parts: RouteObject[] = [
  {
    index: true,
    loader: ({ params, request }) => replace(`/routes/${params.id}/what${new URL(request.url).search}`),
  },
  part('what', async () => (await import('../what/What')).What),
  part('when', async () => (await import('../when/When')).When),
  part('how', async () => (await import('../how/How')).How),
  part('sheet', async () => (await import('../sheet/HandoverSheet')).HandoverSheet),
  part('proofs', async () => (await import('../proofs/Proofs')).Proofs),
  part('tryout', async () => (await import('../tryout/Tryout')).Tryout),
  part('rehearsal', async () => (await import('../rehearsal/RehearsalTable')).RehearsalTable),
  part('versions', async () => (await import('../differences/Versions')).Versions),
  part('*', async () => (await import('./NoSuchPart')).NoSuchPart),
];
