import type { FormView, SamplesView } from '@grammata/contract';
import type { Week } from '@grammata/core/schema';
import { useQuery } from '@tanstack/react-query';
import { api } from '../app/api';

export const useForm = (id: string | null) =>
  useQuery({ queryKey: ['forms', id], queryFn: () => api<FormView>(`/forms/${id}`), enabled: id !== null });
export const useWeeks = (id: string) =>
  useQuery({ queryKey: ['forms', id, 'weeks'], queryFn: () => api<Week[]>(`/forms/${id}/weeks`) });
export const useSamples = (id: string) =>
  useQuery({ queryKey: ['samples', id], queryFn: () => api<SamplesView>(`/forms/${id}/samples`) });
