import type { DeskView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { api } from '../api';

/** The overview, which the band and the strip show a part of as well. */
export const useDesk = () => useQuery({ queryKey: ['desk'], queryFn: () => api<DeskView>('/desk') });
