import type { DeliveryPage, DeliveryView, ResendInput } from '@grammata/contract';
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../app/api';

export interface Filter {
  state: string;
  routeId: string;
  search: string;
}

const PAGE = 100;

/** Deliveries, a page after another as the list is scrolled. */
export const useDeliveries = (filter: Filter) =>
  useInfiniteQuery({
    queryKey: ['deliveries', filter],
    queryFn: ({ pageParam }) =>
      api<DeliveryPage>(
        `/deliveries?${new URLSearchParams({ ...filter, offset: String(pageParam), limit: String(PAGE) })}`,
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
  });

export const useDelivery = (id: string) =>
  useQuery({ queryKey: ['delivery', id], queryFn: () => api<DeliveryView>(`/deliveries/${id}`) });

export const useResend = () => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: ResendInput) =>
      api<{ ids: string[]; work: string | null }>('/deliveries/resend', { method: 'POST', body }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['deliveries'] }),
        client.invalidateQueries({ queryKey: ['delivery'] }),
        client.invalidateQueries({ queryKey: ['work'] }),
      ]),
  });
};
