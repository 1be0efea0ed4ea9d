import type { ChangeInput, ChangesView, ChangeView, RepairInput, RepairView } from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../api';

export const useChanges = () => useQuery({ queryKey: ['changes'], queryFn: () => api<ChangesView>('/changes') });

/** Says what was decided about a change. */
export function useSettle() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, state }: ChangeInput & { id: string }) =>
      api<ChangeView>(`/changes/${id}`, { method: 'POST', body: { state } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['changes'] }),
  });
}

/** What mends a route; null where nothing does by itself. */
export const useRepair = (changeId: string) =>
  useMutation({
    mutationFn: (routeId: string) =>
      api<RepairView | null>(`/changes/${changeId}/repair`, { method: 'POST', body: { routeId } }),
  });

/** Takes a repair into the route's draft. */
export function useTakeRepair(changeId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: RepairInput) => api<null>(`/changes/${changeId}/repair/take`, { method: 'POST', body }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['changes'] }),
        client.invalidateQueries({ queryKey: ['routes'] }),
      ]),
  });
}
