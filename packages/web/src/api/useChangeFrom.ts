import { useQueryClient, useMutation, type QueryKey } from '@tanstack/react-query';
import { useState } from 'react';
import { api, isConflict } from './api';

/**
 * Changes parts of something from how it was when the form began: the server refuses it where somebody else changed the same parts
 * meanwhile, and says what they are now. What was refused once is then changed from there.
 */
export function useChangeFrom<View extends object, Input extends object>(path: string, view: View, queryKey: QueryKey) {
  const client = useQueryClient();
  const [began, setBegan] = useState(view);
  return useMutation({
    mutationFn: (changed: Partial<Input>) => {
      const parts = Object.keys(changed).filter(name => name in began) as (keyof View)[];
      const shown = Object.fromEntries(parts.map(name => [name, began[name]]));
      return api<View>(path, { method: 'PATCH', body: { ...changed, shown } });
    },
    onSuccess: setBegan,
    onError: async error => {
      if (isConflict(error)) setBegan(await api<View>(path));
    },
    onSettled: () => client.invalidateQueries({ queryKey }),
  });
}
