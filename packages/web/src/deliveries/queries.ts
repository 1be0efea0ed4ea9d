import type { DeliveryPage, DeliverySummary, DeliveryView, ResendInput } from '@grammata/contract';
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';

const PAGE = 100;

/** Deliveries that match what is asked for, a page after another as the list is scrolled. */
export const useDeliveries = (asked: Record<string, string>) =>
  useInfiniteQuery({
    queryKey: keys.deliveries.asked(asked),
    queryFn: ({ pageParam }) =>
      api<DeliveryPage>(
        `/deliveries?${new URLSearchParams({ ...asked, offset: String(pageParam), limit: String(PAGE) })}`,
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
  });

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
