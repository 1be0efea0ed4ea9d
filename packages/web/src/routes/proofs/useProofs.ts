import type {
  AcceptInput,
  ApproveInput,
  LoosenInput,
  ProofsInput,
  ProofView,
  ProposedProofs,
} from '@grammata/contract';
import type { ProofResult } from '@grammata/core/proof';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, createElement, use, useEffect, useMemo, type ReactNode } from 'react';
import { api, keys } from '../../api';
import { useAsker } from '../../workers';
import { useWorkbench } from '../workbench';
import type { ProofDraft } from './proof.worker';

/** The proofs of a route, and how the draft on screen fares against them. */
export interface Proofs {
  /** Undefined while they are being read. */
  all: ProofView[] | undefined;
  error: unknown;
  /** By the proofs' identifiers, of the newest state of the draft that was held against them; null until one was. */
  held: ReadonlyMap<string, ProofResult> | null;
  /** True while the draft was edited since: a newer answer is under way. */
  isOlder: boolean;
  /** Why they can't be held against it. */
  fault: string | null;
  differing: number;
}

const begin = () => new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });

const ProofsContext = createContext<Proofs | null>(null);

/** What is known of the proofs of the route that is open. */
export function useProofResults(): Proofs {
  const known = use(ProofsContext);
  if (!known) throw new Error('No route is open here.');
  return known;
}

/** Knows how the proofs of the route that is open fare, for everything below. */
export const ProofsOf = ({ children }: { children: ReactNode }) =>
  createElement(ProofsContext, { value: useProofs() }, children);

/** Holds every proof against every edit, off the main thread. */
function useProofs(): Proofs {
  const { route, editing } = useWorkbench('route', 'editing');
  const { data: all, error } = useQuery({
    queryKey: keys.routes.proofs(route.id),
    queryFn: () => api<ProofView[]>(`/routes/${route.id}/proofs`),
  });
  const { condition, calls, terms } = editing.draft;
  const { targets } = route;
  const draft = useMemo<ProofDraft>(
    () => ({
      condition,
      calls,
      targets: targets.map(({ id, name, baseUrl, operations }) => ({ id, name, baseUrl, operations })),
      context: { timeZone: terms.timeZone },
      marks: all?.map(each => each.mark) ?? [],
    }),
    [condition, calls, terms.timeZone, targets, all],
  );
  const { asker, reply } = useAsker<readonly ProofView[], ProofDraft, ProofResult[]>(begin);
  useEffect(() => {
    if (!all) return;
    asker.current?.tell(all);
    asker.current?.ask(draft);
  }, [asker, all, draft]);
  return useMemo(() => {
    const results = all && reply;
    const held = results && 'answer' in results ? new Map(results.answer.map(each => [each.id, each])) : null;
    return {
      all,
      error,
      held,
      isOlder: results ? results.asked !== draft : false,
      fault: results && 'fault' in results ? results.fault : null,
      differing: held ? [...held.values()].filter(each => each.differences.length > 0).length : 0,
    };
  }, [all, error, reply, draft]);
}

function useProofChange<Input>(routeId: string, change: (input: Input) => Promise<ProofView[]>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: all => client.setQueryData(keys.routes.proofs(routeId), all),
  });
}

export const usePropose = (id: string) =>
  useMutation({ mutationFn: () => api<ProposedProofs>(`/routes/${id}/proofs/propose`, { method: 'POST' }) });
export const useApprove = (id: string) =>
  useProofChange(id, (body: ApproveInput) => api<ProofView[]>(`/routes/${id}/proofs`, { method: 'POST', body }));
export const useAccept = (id: string) =>
  useProofChange(id, (body: AcceptInput) => api<ProofView[]>(`/routes/${id}/proofs/accept`, { method: 'POST', body }));
export const useRemoveProofs = (id: string) =>
  useProofChange(id, (body: ProofsInput) => api<ProofView[]>(`/routes/${id}/proofs/remove`, { method: 'POST', body }));
export const useLoosen = (id: string) =>
  useProofChange(id, ({ proofId, ...body }: LoosenInput & { proofId: string }) =>
    api<ProofView[]>(`/routes/${id}/proofs/${proofId}`, { method: 'PATCH', body }),
  );

/** Accepts proofs as they are shown, for a revision of the draft. */
export const accepting = (proofs: readonly ProofView[], revision: number): AcceptInput => ({
  ids: proofs.map(each => each.id),
  marks: Object.fromEntries(proofs.map(each => [each.id, each.mark])),
  revision,
});
