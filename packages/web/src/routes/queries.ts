import type {
  LookInput,
  LookView,
  FoundOverview,
  DraftInput,
  FilesView,
  RouteInput,
  RefusalView,
  RehomeInput,
  RehomeView,
  ResponsesView,
  RouteView,
  RunView,
  VersionView,
} from '@grammata/contract';
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';

export const routeQuery = (id: string) =>
  queryOptions({ queryKey: keys.routes.view(id), queryFn: () => api<RouteView>(`/routes/${id}`) });
export const useRoute = (id: string) => useQuery(routeQuery(id));

/** Stores a draft; rejects with 409 when somebody else stored a newer one. */
export const saveDraft = (id: string, draft: DraftInput) =>
  api<RouteView>(`/routes/${id}/draft`, { method: 'PUT', body: draft });

export const useVersions = (id: string) =>
  useQuery({ queryKey: keys.routes.versions(id), queryFn: () => api<VersionView[]>(`/routes/${id}/versions`) });

export const useRefusals = (id: string) =>
  useQuery({ queryKey: keys.routes.refusals(id), queryFn: () => api<RefusalView[]>(`/routes/${id}/refusals`) });

/** What a call was answered, as far as it may tell whether that was a success. */
export const useResponses = (id: string, callId: string) =>
  useQuery({
    queryKey: keys.routes.responses(id, callId),
    queryFn: () => api<ResponsesView>(`/routes/${id}/responses?call=${encodeURIComponent(callId)}`),
  });

/** What one sample sends by the stored draft: what is looked up is really looked up, nothing else is sent. */
export const useDryRun = (id: string, revision: number, sampleId: string | undefined, isStored: boolean) =>
  useQuery({
    queryKey: keys.asked.run(id, revision, sampleId),
    queryFn: () => api<RunView>(`/routes/${id}/run`, { method: 'POST', body: { sampleId, send: false, revision } }),
    enabled: sampleId !== undefined && isStored,
    staleTime: Infinity,
    gcTime: 0,
  });

export const useFilesCheck = (id: string) =>
  useQuery({ queryKey: keys.asked.files(id), queryFn: () => api<FilesView>(`/routes/${id}/files`), gcTime: 0 });

function useRouteChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSuccess: () => client.invalidateQueries({ queryKey: keys.routes.all }) });
}

export const useCreateRoute = () =>
  useRouteChange((body: RouteInput) =>
    api<RouteView>('/routes', { method: 'POST', body: { timeZone: ownTimeZone(), ...body } }),
  );

/** The zone that this browser is set to. */
const ownTimeZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;
export const useGoLive = (id: string) =>
  useRouteChange((shown: { revision: number }) =>
    api<RouteView>(`/routes/${id}/live`, { method: 'POST', body: shown }),
  );
export const usePause = (id: string) => useRouteChange(() => api<RouteView>(`/routes/${id}/pause`, { method: 'POST' }));
export function useTrial(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (shown: { sampleId: string; revision: number }) =>
      api<RunView>(`/routes/${id}/run`, { method: 'POST', body: { ...shown, send: true } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.routes.all }),
    // What was looked up before may be otherwise now, however it ended.
    onSettled: () => client.invalidateQueries({ queryKey: keys.asked.runs(id) }),
  });
}
/** What the draft would make and change over the newest samples. */
export const useOverview = (id: string) =>
  useMutation({
    mutationFn: (shown: { revision: number }) =>
      api<FoundOverview>(`/routes/${id}/overview`, { method: 'POST', body: shown }),
  });
/** Asks a target what a look-up finds for a sample. */
export const useLook = (id: string) =>
  useMutation({
    mutationFn: (body: LookInput) => api<LookView>(`/routes/${id}/look`, { method: 'POST', body }),
  });
export const useCopyRoute = (id: string) =>
  useRouteChange(() => api<RouteView>(`/routes/${id}/copy`, { method: 'POST' }));
export const useRemoveRoute = (id: string) => useRouteChange(() => api<null>(`/routes/${id}`, { method: 'DELETE' }));

/** A route's draft as it would hang on another form or target. */
export const useProposeRehome = (id: string) =>
  useMutation({
    mutationFn: (body: RehomeInput) => api<RehomeView>(`/routes/${id}/rehome`, { method: 'POST', body }),
  });
/** Hangs a route's draft on another form or target. */
export const useRehome = (id: string) =>
  useRouteChange((body: RehomeInput) => api<RouteView>(`/routes/${id}/rehome/take`, { method: 'POST', body }));
