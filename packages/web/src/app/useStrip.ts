import type { StripView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { api, keys } from '../api';

/** What the head and the foot of every place show. */
export const useStrip = () => useQuery({ queryKey: keys.strip, queryFn: () => api<StripView>('/strip') });
