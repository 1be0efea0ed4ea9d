import type { AcceptInput, ApproveInput, LoosenInput, ProofView, ProposedProofs } from '@grammata/contract';
import type { Held } from '@grammata/core/proof';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { api } from '../../api';
import type { Workbench } from '../workbench';
import type { Answer, HeldAgainst, Question } from './proof.worker';

/** The proofs of a route, and how the draft on screen fares against them. */
export interface Proofs {
  /** Undefined while they are being read. */
  all: ProofView[] | undefined;
  error: unknown;
  /** By the proofs' identifiers, of the newest state of the draft that was held against them; null until one was. */
  held: ReadonlyMap<string, Held> | null;
  /** Why they can't be held against it. */
  fault: string | null;
  differing: number;
}

const keyOf = (routeId: string) => ['routes', routeId, 'proofs'];

/** Holds every proof against every edit, off the main thread. */
export function useProofs({ route, editing }: Pick<Workbench, 'route' | 'editing'>): Proofs {
  const { data: all, error } = useQuery({
    queryKey: keyOf(route.id),
    queryFn: () => api<ProofView[]>(`/routes/${route.id}/proofs`),
  });
  const { condition, calls, terms } = editing.draft;
  const { targets } = route;
  const draft = useMemo<HeldAgainst>(
    () => ({
      condition,
      calls,
      targets: targets.map(({ id, name, baseUrl, operations }) => ({ id, name, baseUrl, operations })),
      context: { timeZone: terms.timeZone },
    }),
    [condition, calls, terms.timeZone, targets],
  );
  const worker = useRef<Worker | null>(null);
  const number = useRef(0);
  const [answer, setAnswer] = useState<Answer | null>(null);
  useEffect(() => {
    const opened = new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });
    // What is behind the newest edit is not shown.
    opened.onmessage = ({ data }: MessageEvent<Answer>) => data.number === number.current && setAnswer(data);
    opened.onerror = event => setAnswer({ number: number.current, fault: event.message });
    worker.current = opened;
    return () => opened.terminate();
  }, []);
  useEffect(() => {
    if (!all) return;
    const tell = (question: Question) => worker.current?.postMessage(question);
    tell({ proofs: all });
    number.current += 1;
    tell({ draft, number: number.current });
  }, [all, draft]);
  return useMemo(() => {
    const told = all && answer;
    const held = told && 'held' in told ? new Map(told.held.map(each => [each.id, each])) : null;
    return {
      all,
      error,
      held,
      fault: told && 'fault' in told ? told.fault : null,
      differing: held ? [...held.values()].filter(each => each.differences.length > 0).length : 0,
    };
  }, [all, error, answer]);
}

function useProofChange<Input>(routeId: string, change: (input: Input) => Promise<ProofView[]>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: all => client.setQueryData(keyOf(routeId), all),
  });
}

export const usePropose = (id: string) =>
  useMutation({ mutationFn: () => api<ProposedProofs>(`/routes/${id}/proofs/propose`, { method: 'POST' }) });
export const useApprove = (id: string) =>
  useProofChange(id, (body: ApproveInput) => api<ProofView[]>(`/routes/${id}/proofs`, { method: 'POST', body }));
export const useAccept = (id: string) =>
  useProofChange(id, (body: AcceptInput) => api<ProofView[]>(`/routes/${id}/proofs/accept`, { method: 'POST', body }));
export const useRemoveProofs = (id: string) =>
  useProofChange(id, (body: AcceptInput) => api<ProofView[]>(`/routes/${id}/proofs/remove`, { method: 'POST', body }));
export const useLoosen = (id: string) =>
  useProofChange(id, ({ proofId, ...body }: LoosenInput & { proofId: string }) =>
    api<ProofView[]>(`/routes/${id}/proofs/${proofId}`, { method: 'PATCH', body }),
  );
