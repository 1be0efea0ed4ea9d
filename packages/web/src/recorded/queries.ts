import type { RecordedPreview, SelectionInput, SendRecordedInput, WorkView } from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, isConflict, keys } from '../api';

/** What sending recorded submissions through a live route would do, as things stand now. */
export const useRecordedPreview = (routeId: string, selection: SelectionInput) =>
  useQuery({
    queryKey: keys.recorded(routeId, selection),
    queryFn: () => api<RecordedPreview>(`/routes/${routeId}/recorded/preview`, { method: 'POST', body: selection }),
    gcTime: 0,
    staleTime: 0,
  });

/** Sends what was previewed; `refused` hears that it is not as it was shown any more. */
export const useSendRecorded = (routeId: string, refused: () => void) => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SendRecordedInput) =>
      api<Pick<WorkView, 'id'>>(`/routes/${routeId}/recorded`, { method: 'POST', body }),
    onError: error => {
      if (isConflict(error)) refused();
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.work.all }),
  });
};
