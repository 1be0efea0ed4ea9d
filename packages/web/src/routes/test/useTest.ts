import type {
  AsBuilderInput,
  AsBuilderView,
  BatchInput,
  BatchView,
  TakeAnswersInput,
  WalkInput,
  WalkView,
  WorkView,
} from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../../api';

/** Readies a draft to be tried a request at a time. */
export const useBegin = (routeId: string) =>
  useMutation({
    mutationFn: (body: WalkInput) => api<WalkView>(`/routes/${routeId}/steps`, { method: 'POST', body }),
  });

/** Makes the next request. */
export const useStep = (routeId: string) =>
  useMutation({
    mutationFn: (id: string) => api<WalkView>(`/routes/${routeId}/steps/${id}`, { method: 'POST' }),
  });

/** The report of the last batch; asked for anew as the route changes. */
export const useBatch = (routeId: string) =>
  useQuery({
    queryKey: keys.routes.batch(routeId),
    queryFn: () => api<BatchView | null>(`/routes/${routeId}/batch`),
  });

export function useTryBatch(routeId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: BatchInput) => api<Pick<WorkView, 'id'>>(`/routes/${routeId}/batch`, { method: 'POST', body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.work.all }),
  });
}

/** Has a proof hold what was answered when it was tried. */
export function useTakeAnswers(routeId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ proofId, ...body }: TakeAnswersInput & { proofId: string }) =>
      api<null>(`/routes/${routeId}/proofs/${proofId}/answers`, { method: 'POST', body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.routes.proofs(routeId) }),
  });
}

/** Sends a recorded sample to its intake once more. */
export const useSendAgain = () =>
  useMutation({
    mutationFn: ({ sampleId, ...body }: AsBuilderInput & { sampleId: string }) =>
      api<AsBuilderView>(`/samples/${sampleId}/resend`, { method: 'POST', body }),
  });
