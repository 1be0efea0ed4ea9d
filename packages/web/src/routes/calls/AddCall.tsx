import type { OperationView } from '@grammata/contract';
import { useMutation } from '@tanstack/react-query';
import { api, wordsFor } from '../../api';
import { useOffered } from '../../lists';
import { newLine } from '@grammata/core/route';
import { writable, type Operation } from '@grammata/core/target';
import { useState } from 'react';

import { Press } from '../../ui';
import { lineId } from '../mapping/useLines';
import { useWorkbench } from '../workbench';
import { OperationPick } from './OperationPick';

/** Puts another call at the end of a route. */
export function AddCall({ onClose }: { onClose: () => void }) {
  const { editing, showCall } = useWorkbench('editing', 'call');
  const isOwn = (id: string) => editing.draft.calls.some(each => each.targetId === id);
  // What the route goes to already comes first.
  const targets = (useOffered().data ?? []).toSorted((a, b) => Number(isOwn(b.id)) - Number(isOwn(a.id)));
  const [where, setWhere] = useState('');
  const [targetId = '', operationId = ''] = where.split('\n');
  const add = useMutation({
    mutationFn: () => api<OperationView>(`/targets/${targetId}/operation?id=${encodeURIComponent(operationId)}`),
    onSuccess: ({ operation }) => put(operation),
  });
  const put = (operation: Operation) => {
    const id = `call-${crypto.randomUUID().slice(0, 8)}`;
    const lines = writable(operation).map(field => newLine(lineId(), field.key));
    editing.edit(draft => ({ ...draft, calls: [...draft.calls, { id, targetId, operationId, lines }] }));
    // What it goes to may be a target that the route did not have before.
    void editing.flush().then(() => showCall(id));
    onClose();
  };
  return (
    <form
      aria-label="Add call"
      className="flex flex-wrap items-end gap-4 border-t border-rule bg-raised px-3.5 py-3 pl-[50px]"
      onSubmit={event => {
        event.preventDefault();
        if (where !== '') add.mutate();
      }}
    >
      <OperationPick
        label="Operation"
        className="w-80 max-w-full"
        targets={targets}
        reads
        value={where}
        onPick={setWhere}
      />
      <Press type="submit" disabled={where === '' || add.isPending}>
        Add
      </Press>
      <Press quiet onClick={onClose}>
        Cancel
      </Press>
      {add.error && <p className="w-full text-crimson">! {wordsFor(add.error)}</p>}
    </form>
  );
}
