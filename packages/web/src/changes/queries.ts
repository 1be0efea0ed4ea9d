import type {
  ChangeInput,
  ChangeView,
  HoldInput,
  RepairInput,
  RepairedView,
  ResendInput,
  SendRecordedInput,
  SupposedView,
  SupposeInput,
} from '@grammata/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';
import { asListed } from '../deliveries/queries';

/** Sends again what a change was shown with, by what is live now: a delivery that is in another state by now is left. */
export function useSendShown() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (shown: Parameters<typeof asListed>[0]) => {
      const body: ResendInput = { ...asListed(shown), mapping: 'now' };
      return api('/deliveries/resend', { method: 'POST', body });
    },
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.deliveries.all }),
        client.invalidateQueries({ queryKey: keys.work.all }),
      ]),
  });
}

/** Sends stored submissions through a route by the version that was shown: what it delivered meanwhile is left. */
export function useSendStored(routeId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ sampleIds, version }: { sampleIds: string[]; version: number }) => {
      const body: SendRecordedInput = { selection: { sampleIds }, again: false, version };
      return api(`/routes/${routeId}/recorded`, { method: 'POST', body });
    },
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.deliveries.all }),
        client.invalidateQueries({ queryKey: keys.work.all }),
        client.invalidateQueries({ queryKey: keys.changes }),
      ]),
  });
}

/** Says whether a route holds what comes while a change is open. */
export function useHold(changeId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: HoldInput) => api<ChangeView>(`/changes/${changeId}/holding`, { method: 'POST', body }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.deliveries.all }),
        client.invalidateQueries({ queryKey: keys.changes }),
      ]),
  });
}

/** Says what was decided about a change, and about those that are one with it. */
export function useSettle() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ ids, state }: ChangeInput & { ids: readonly string[] }) =>
      Promise.all(ids.map(id => api<ChangeView>(`/changes/${id}`, { method: 'POST', body: { state } }))),
    // Also where one of them failed: what was said of the others is shown.
    onSettled: () => client.invalidateQueries({ queryKey: keys.changes }),
  });
}

/** What mends a route. */
export const useRepair = (changeId: string) =>
  useMutation({
    mutationFn: (body: RepairInput) => api<RepairedView>(`/changes/${changeId}/repair`, { method: 'POST', body }),
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

/** What would become of the routes if something were different. */
export const useSuppose = () =>
  useMutation({
    mutationFn: (body: SupposeInput) => api<SupposedView[]>('/suppose', { method: 'POST', body }),
  });
