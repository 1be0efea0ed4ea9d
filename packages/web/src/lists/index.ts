import type { FormListed, IntakeView, RouteSummary, TargetView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { api } from '../api';

/** What several places list: all of a kind. */
export const useIntakes = () =>
  useQuery({ queryKey: ['intakes', 'list'], queryFn: () => api<IntakeView[]>('/intakes') });
export const useForms = () => useQuery({ queryKey: ['forms', 'list'], queryFn: () => api<FormListed[]>('/forms') });
export const useRoutes = () =>
  useQuery({ queryKey: ['routes', 'list'], queryFn: () => api<RouteSummary[]>('/routes') });
export const useTargets = () => useQuery({ queryKey: ['targets'], queryFn: () => api<TargetView[]>('/targets') });
