import type {
  FormInput,
  FormView,
  NamedSample,
  QuestionInput,
  SampleInput,
  SamplesView,
  VariantInput,
} from '@grammata/contract';
import type { Week } from '@grammata/core/schema';
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';

export const useForm = (id: string | null) =>
  useQuery({ queryKey: keys.forms.view(id), queryFn: () => api<FormView>(`/forms/${id}`), enabled: id !== null });
export const useWeeks = (id: string) =>
  useQuery({ queryKey: keys.forms.weeks(id), queryFn: () => api<Week[]>(`/forms/${id}/weeks`) });

/** Submissions that hold what is looked for, newest first, a page after another; the server looks. */
export const useFound = (id: string, search: string) =>
  useInfiniteQuery({
    queryKey: keys.samples.found(id, search),
    queryFn: ({ pageParam }) =>
      api<SamplesView>(
        `/forms/${id}/samples?${new URLSearchParams({ search, ...(pageParam && { before: pageParam }) })}`,
      ),
    initialPageParam: '',
    getNextPageParam: last => last.next ?? undefined,
    placeholderData: keepPreviousData,
  });

/** A change to a form's samples; they are read again afterwards. */
function useSampleChange<Input, Output>(formId: string, change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.samples.of(formId) }),
  });
}

/** Names a recorded sample, or says whether it is kept. */
export const useDescribeSample = (formId: string) =>
  useSampleChange(formId, ({ id, ...body }: SampleInput & { id: string }) =>
    api<NamedSample>(`/samples/${id}`, { method: 'PATCH', body }),
  );
/** Stores a variant: a new one, or the one with the identifier anew. */
export const useStoreVariant = (formId: string) =>
  useSampleChange(formId, ({ id, ...body }: VariantInput & { id?: string }) =>
    id
      ? api<NamedSample>(`/variants/${id}`, { method: 'PUT', body })
      : api<NamedSample>(`/forms/${formId}/variants`, { method: 'POST', body }),
  );
export const useRemoveVariant = (formId: string) =>
  useSampleChange(formId, (id: string) => api<null>(`/variants/${id}`, { method: 'DELETE' }));

/** A change to what is known of a form; whatever shows it is read again. */
function useFormChange<Input>(change: (input: Input) => Promise<FormView>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: view => {
      client.setQueryData(keys.forms.view(view.id), view);
      return Promise.all(
        [keys.forms.list, keys.intakes.all, keys.routes.all].map(queryKey => client.invalidateQueries({ queryKey })),
      );
    },
  });
}

/** Adopts a form, has it ignored, gives it another name. */
export const useChangeForm = () =>
  useFormChange(({ id, ...body }: FormInput & { id: string }) =>
    api<FormView>(`/forms/${id}`, { method: 'PATCH', body }),
  );
/** Gives a question another name. */
export const useNameQuestion = (formId: string) =>
  useFormChange((body: QuestionInput) => api<FormView>(`/forms/${formId}/questions`, { method: 'PUT', body }));
