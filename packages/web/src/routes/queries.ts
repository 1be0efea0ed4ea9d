import type { DraftInput, FormView, RouteInput, RouteSummary, RouteView } from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../app/api';

export const useRoutes = () => useQuery({ queryKey: ['routes'], queryFn: () => api<RouteSummary[]>('/routes') });
export const useRoute = (id: string) =>
  useQuery({ queryKey: ['routes', id], queryFn: () => api<RouteView>(`/routes/${id}`) });
export const useForms = () => useQuery({ queryKey: ['forms'], queryFn: () => api<FormView[]>('/forms') });

/** Stores a draft; rejects with 409 when somebody else stored a newer one. */
export const saveDraft = (id: string, draft: DraftInput) =>
  api<RouteView>(`/routes/${id}/draft`, { method: 'PUT', body: draft });

function useRouteChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSuccess: () => client.invalidateQueries({ queryKey: ['routes'] }) });
}

export const useCreateRoute = () =>
  useRouteChange((body: RouteInput) => api<RouteView>('/routes', { method: 'POST', body }));
export const useGoLive = (id: string) => useRouteChange(() => api<RouteView>(`/routes/${id}/live`, { method: 'POST' }));
export const usePause = (id: string) => useRouteChange(() => api<RouteView>(`/routes/${id}/pause`, { method: 'POST' }));
export const useRemoveRoute = (id: string) => useRouteChange(() => api<null>(`/routes/${id}`, { method: 'DELETE' }));
