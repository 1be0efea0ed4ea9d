import type { ChangesView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { api, keys } from '../api';

/** Changes of forms and targets that were seen, the newest first. */
export const useChanges = () => useQuery({ queryKey: keys.changes, queryFn: () => api<ChangesView>('/changes') });
