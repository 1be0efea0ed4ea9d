import type {
  ChoicesView,
  ConnectionView,
  DocumentInput,
  DocumentView,
  ListingView,
  OperationInput,
  OperationView,
  TargetInput,
  TargetView,
  TestResultView,
  TryOperationInput,
} from '@grammata/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, useChangeFrom, keys } from '../api';

export const useTarget = (id: string) =>
  useQuery({ queryKey: keys.targets.one(id), queryFn: () => api<TargetView>(`/targets/${id}`) });

/** What a target answers to a question for a list, as values to pick from. */
export const useChoices = (id: string, operationId: string) =>
  useQuery({
    queryKey: keys.asked.choices(id, operationId),
    queryFn: () => api<ChoicesView>(`/targets/${id}/choices?operation=${encodeURIComponent(operationId)}`),
    enabled: id !== '' && operationId !== '',
  });

function useTargetChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => client.invalidateQueries({ queryKey: keys.targets.all }) });
}

export const useCreateTarget = () =>
  useTargetChange((body: TargetInput) => api<TargetView>('/targets', { method: 'POST', body }));
/** Changes settings from how they were when the form began. */
export const useTargetSettings = (target: TargetView) =>
  useChangeFrom<TargetView, TargetInput>(`/targets/${target.id}`, target, keys.targets.all);
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

const operationAt = (id: string, operationId: string, more = '') =>
  `/targets/${id}/operation${more}?id=${encodeURIComponent(operationId)}`;

/** One operation of a target, whole. */
export const useOperation = (id: string, operationId: string | null) =>
  useQuery({
    queryKey: keys.targets.operation(id, operationId),
    queryFn: () => api<OperationView>(operationAt(id, operationId!)),
    enabled: operationId !== null,
  });
export const useSetOperation = (id: string) =>
  useTargetChange((body: OperationInput) => api<OperationView>(`/targets/${id}/operation`, { method: 'PUT', body }));
export const useTakeAway = (id: string) =>
  useTargetChange((operationId: string) => api<null>(operationAt(id, operationId), { method: 'DELETE' }));
/** Resets an operation to what its source says. */
export const useFromSource = (id: string) =>
  useTargetChange((operationId: string) =>
    api<OperationView>(operationAt(id, operationId, '/source'), { method: 'POST' }),
  );
/** Adds the operations that examples show. */
export const useAddExamples = (id: string) =>
  useTargetChange((text: string) =>
    api<OperationView[]>(`/targets/${id}/examples`, { method: 'POST', body: { text } }),
  );
export const useTryOperation = (id: string) =>
  useMutation({
    mutationFn: (body: TryOperationInput) => api<TestResultView>(`/targets/${id}/try`, { method: 'POST', body }),
  });
/** Begins to give consent: where at the provider. */
export const useAskConsent = (id: string) =>
  useMutation({ mutationFn: () => api<{ url: string }>(`/targets/${id}/consent`, { method: 'POST' }) });
export const useForgetConsent = (id: string) =>
  useTargetChange(() => api<null>(`/targets/${id}/consent`, { method: 'DELETE' }));
/** What a target answers where it lists its tables, asked on the spot. */
export const useListing = (id: string | null) =>
  useMutation({
    mutationFn: (typed: TargetInput) =>
      id === null
        ? api<ListingView>('/targets/listing', { method: 'POST', body: typed })
        : api<ListingView>(`/targets/${id}/listing`, { method: 'POST' }),
  });
/** What a document or an example says before a target is made of it. */
export const useLookAt = () =>
  useMutation({
    mutationFn: (body: DocumentInput) => api<DocumentView>('/targets/look', { method: 'POST', body }),
  });
