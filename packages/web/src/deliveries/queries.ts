import type { DeliverySummary, DeliveryView, ResendInput } from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';

export const useDelivery = (id: string) =>
  useQuery({ queryKey: keys.delivery.one(id), queryFn: () => api<DeliveryView>(`/deliveries/${id}`) });

/** Deliveries to be sent again as they are listed: one that is in another state by now is left. */
export const asListed = (
  rows: readonly Pick<DeliverySummary, 'id' | 'state'>[],
): Pick<ResendInput, 'ids' | 'states'> => ({
  ids: rows.map(row => row.id),
  states: Object.fromEntries(rows.map(row => [row.id, row.state])),
});

export const useResend = () => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: ResendInput) =>
      api<{ ids: string[]; work: string | null }>('/deliveries/resend', { method: 'POST', body }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.deliveries.all }),
        client.invalidateQueries({ queryKey: keys.delivery.all }),
        client.invalidateQueries({ queryKey: keys.work.all }),
      ]),
  });
};
