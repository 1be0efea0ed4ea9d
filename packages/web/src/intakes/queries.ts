import type {
  ArrivalSummary,
  ArrivalView,
  IntakeInput,
  IntakeView,
  LearnedView,
  PinsPreview,
  ProblemDetails,
  StrayView,
} from '@grammata/contract';
import type { LandmarkExample, Pins } from '@grammata/core/decode';
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api, ApiFault, useChangeFrom, keys } from '../api';
import { useNextPage } from '../lists';

export const useIntake = (id: string) =>
  useQuery({ queryKey: keys.intakes.one(id), queryFn: () => api<IntakeView>(`/intakes/${id}`) });
/** Arrivals that are brought at once. */
const PAGE = 60;

/** What arrived, the newest first; older ones as they are asked for. */
export function useArrivals(intakeId: string) {
  const query = useInfiniteQuery({
    queryKey: keys.arrivals.of(intakeId),
    queryFn: ({ pageParam }) =>
      api<ArrivalSummary[]>(
        `/intakes/${intakeId}/arrivals?${new URLSearchParams({ limit: String(PAGE), ...(pageParam && { before: pageParam }) })}`,
      ),
    initialPageParam: '',
    getNextPageParam: last => (last.length < PAGE ? undefined : last.at(-1)!.id),
  });
  const { data, error, refetch } = query;
  const { bring: older, isBringing } = useNextPage(intakeId, query);
  return {
    data: useMemo(() => data?.pages.flat(), [data]),
    error,
    refetch,
    /** Brings older ones; null where there are none. */
    older,
    isBringing,
  };
}
export const useArrival = (id: string | null) =>
  useQuery({
    queryKey: keys.arrival.one(id),
    queryFn: () => api<ArrivalView>(`/arrivals/${id}`),
    enabled: id !== null,
    placeholderData: before => before,
  });
/** Has a message read once more that could not be read. */
export const useReadAgain = ({ id, intakeId }: Pick<ArrivalSummary, 'id' | 'intakeId'>) => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api<ArrivalSummary>(`/arrivals/${id}/read`, { method: 'POST' }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.arrival.one(id) }),
        client.invalidateQueries({ queryKey: keys.arrivals.of(intakeId) }),
      ]),
  });
};
export const useStrays = () => useQuery({ queryKey: keys.strays, queryFn: () => api<StrayView[]>('/strays') });

/** A change to intakes; what is shown of them is read again afterwards. */
function useIntakeChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSuccess: () => client.invalidateQueries({ queryKey: keys.intakes.all }) });
}

export const useCreateIntake = () =>
  useIntakeChange((name: string) => api<IntakeView>('/intakes', { method: 'POST', body: { name } }));
export const useChangeIntake = (id: string) =>
  useIntakeChange((body: Partial<IntakeInput>) => api<IntakeView>(`/intakes/${id}`, { method: 'PATCH', body }));
/** Changes settings from how they were when the form began. */
export const useIntakeSettings = (intake: IntakeView) =>
  useChangeFrom<IntakeView, IntakeInput>(`/intakes/${intake.id}`, intake, keys.intakes.all);
export const useRemoveIntake = (id: string) => useIntakeChange(() => api<null>(`/intakes/${id}`, { method: 'DELETE' }));
export const useSend = (id: string) =>
  useMutation({
    mutationFn: (body: { method: string; contentType: string; body: string; query: string }) =>
      api<{ status: number; body: string }>(`/intakes/${id}/send`, { method: 'POST', body }),
  });
/** Uploads a file of past submissions; gives back the arrival it became. */
export const useUpload = (id: string) =>
  useIntakeChange(async (file: File) => {
    const answer = await fetch(`/api/intakes/${id}/upload?name=${encodeURIComponent(file.name)}`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: file,
    });
    const json: unknown = await answer.json();
    if (!answer.ok) throw new ApiFault(json as ProblemDetails);
    return json as { id: string };
  });
export const useForgetStrays = () => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api<null>('/strays', { method: 'DELETE' }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.strays }),
  });
};

/** What pins would make of the recorded messages; asked only while there are some that differ. */
/** What pins would make of all that is recorded. */
export const askPins = (intakeId: string, arrivalId: string | null, pins: Pins | null) =>
  api<PinsPreview>(`/intakes/${intakeId}/pins/preview?arrival=${arrivalId ?? ''}`, { method: 'POST', body: pins });
export const usePinsPreview = (intakeId: string, arrivalId: string | null, pins: Pins | null) =>
  useQuery({
    queryKey: keys.pins(intakeId, arrivalId, pins),
    queryFn: () => askPins(intakeId, arrivalId, pins),
    enabled: pins !== null,
    placeholderData: keepPreviousData,
  });
/** Keeps pins in the place of those that were shown. */
export const useKeepPins = (id: string) =>
  useIntakeChange(({ pins, shown }: { pins: Pins; shown: Pins }) =>
    api<IntakeView>(`/intakes/${id}/pins`, { method: 'PUT', body: { ...pins, shown } }),
  );
export const useLearn = () =>
  useMutation({
    mutationFn: (examples: LandmarkExample[]) =>
      api<LearnedView>('/learn/landmarks', { method: 'POST', body: { examples } }),
  });
export const useReadFeed = (id: string) =>
  useIntakeChange(() => api<{ fresh: number; fault: string | null }>(`/intakes/${id}/feed/read`, { method: 'POST' }));
