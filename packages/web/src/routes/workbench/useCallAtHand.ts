import type { CallInput, RouteView } from '@grammata/contract';
import { compileCall, type CompiledCall } from '@grammata/core/request';
import { useCallback, useMemo, useState } from 'react';
import { useParam } from '../../address';
import type { CallAtHand } from './workbench';

/** Which call is looked at, as the address says; compiled, line by line as far as they changed. */
export function useCallAtHand({ targets }: RouteView, calls: CallInput[]): CallAtHand {
  const [id, showCall] = useParam('call');
  const callAt = Math.max(
    0,
    calls.findIndex(each => each.id === id),
  );
  const call = calls[callAt]!;
  const targetOf = useCallback((of: CallInput) => targets.find(each => each.id === of.targetId) ?? null, [targets]);
  const operationOf = useCallback(
    (of: CallInput) => targetOf(of)?.operations.find(each => each.id === of.operationId) ?? null,
    [targetOf],
  );
  const target = targetOf(call);
  const operation = operationOf(call);
  const baseUrl = target?.baseUrl ?? '';
  const [kept, setKept] = useState<{ compiled: CompiledCall | null; from: unknown[] }>({ compiled: null, from: [] });
  // Lines that did not change are not compiled anew.
  const from = [call, operation, baseUrl];
  let { compiled } = kept;
  if (from.some((each, index) => each !== kept.from[index])) {
    compiled = operation && compileCall(call, operation, baseUrl, kept.compiled ?? undefined);
    setKept({ compiled, from });
  }
  return useMemo(
    () => ({ call, callAt, target, operation, compiled, showCall, operationOf, targetOf }),
    [call, callAt, target, operation, compiled, showCall, operationOf, targetOf],
  );
}
