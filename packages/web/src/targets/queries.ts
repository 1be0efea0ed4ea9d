import type { ChoiceView, ConnectionView, TargetInput, TargetView } from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../api';

export const useTarget = (id: string) =>
  useQuery({ queryKey: ['targets', id], queryFn: () => api<TargetView>(`/targets/${id}`) });

/** What a target answers to a question for a list, as values to pick from. */
export const useChoices = (id: string, operationId: string) =>
  useQuery({
    queryKey: ['asked', 'choices', id, operationId],
    queryFn: () => api<ChoiceView[]>(`/targets/${id}/choices?operation=${encodeURIComponent(operationId)}`),
    enabled: id !== '' && operationId !== '',
  });

function useTargetChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => client.invalidateQueries({ queryKey: ['targets'] }) });
}

export const useCreateTarget = () =>
  useTargetChange((body: TargetInput) => api<TargetView>('/targets', { method: 'POST', body }));
export const useChangeTarget = (id: string) =>
  useTargetChange((body: Partial<TargetInput>) => api<TargetView>(`/targets/${id}`, { method: 'PATCH', body }));
export const useRemoveTarget = (id: string) => useTargetChange(() => api<null>(`/targets/${id}`, { method: 'DELETE' }));
/** Has a target that is parked asked again at once. */
export const useProbe = (id: string) =>
  useTargetChange(() => api<TargetView>(`/targets/${id}/probe`, { method: 'POST' }));
/** Asks several targets, each for what it offers. */
export const useReadTargets = (targets: Pick<TargetView, 'id'>[]) =>
  useTargetChange(async () => {
    const read = ({ id }: Pick<TargetView, 'id'>) => api<ConnectionView>(`/targets/${id}/read`, { method: 'POST' });
    const views = await Promise.all(targets.map(read));
    return new Map(views.map((view, index) => [targets[index]!.id, view]));
  });
export const useReadTarget = (id: string) =>
  useTargetChange(() => api<ConnectionView>(`/targets/${id}/read`, { method: 'POST' }));
