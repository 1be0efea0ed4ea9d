import type { WorkView } from '@grammata/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { api, keys } from '../api';

/** What long work is about: an intake, a route, or anything. */
export type About = { intake: string } | { route: string } | Record<string, never>;

export const useWork = (about: About) =>
  useQuery({ queryKey: keys.work.about(about), queryFn: () => api<WorkView[]>(`/work?${new URLSearchParams(about)}`) });
export const useStopWork = () =>
  useMutation({ mutationFn: (id: string) => api<null>(`/work/${id}/stop`, { method: 'POST' }) });
