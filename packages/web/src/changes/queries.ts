import type {
  ChangeInput,
  ChangeView,
  RepairInput,
  RepairedView,
  SupposedView,
  SupposeInput,
} from '@grammata/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';

/** Says what was decided about a change. */
export function useSettle() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, state }: ChangeInput & { id: string }) =>
      api<ChangeView>(`/changes/${id}`, { method: 'POST', body: { state } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.changes }),
  });
}

/** What mends a route. */
export const useRepair = (changeId: string) =>
  useMutation({
    mutationFn: (routeId: string) =>
      api<RepairedView>(`/changes/${changeId}/repair`, { method: 'POST', body: { routeId } }),
  });

/** Takes a repair into the route's draft. */
export function useTakeRepair(changeId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: RepairInput) => api<null>(`/changes/${changeId}/repair/take`, { method: 'POST', body }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.changes }),
        client.invalidateQueries({ queryKey: keys.routes.all }),
      ]),
  });
}

/** What would become of the routes if something were otherwise. */
export const useSuppose = () =>
  useMutation({
    mutationFn: (body: SupposeInput) => api<SupposedView[]>('/suppose', { method: 'POST', body }),
  });
