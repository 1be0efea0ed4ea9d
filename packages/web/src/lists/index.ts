import type {
  FormListed,
  IntakeView,
  OfferedView,
  PracticeView,
  RouteSummary,
  TargetSummary,
} from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { api, keys } from '../api';

export * from './useNextPage';

/** What several places list: all of a kind. */
export const useIntakes = () => useQuery({ queryKey: keys.intakes.list, queryFn: () => api<IntakeView[]>('/intakes') });
export const useForms = () => useQuery({ queryKey: keys.forms.list, queryFn: () => api<FormListed[]>('/forms') });
export const useRoutes = () => useQuery({ queryKey: keys.routes.list, queryFn: () => api<RouteSummary[]>('/routes') });
/** What every target can be asked to do, to be picked from. */
export const useOffered = () =>
  useQuery({ queryKey: keys.targets.offered, queryFn: () => api<OfferedView[]>('/targets/offered') });
export const useTargets = () =>
  useQuery({ queryKey: keys.targets.all, queryFn: () => api<TargetSummary[]>('/targets') });
/** The practice yard, where one runs beside the server. */
export const usePractice = () => useQuery({ queryKey: keys.practice, queryFn: () => api<PracticeView>('/practice') });
