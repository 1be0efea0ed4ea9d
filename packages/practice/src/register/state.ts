import type { ColumnEdit } from './edits';
import type { Fault } from '../faults';

export interface RegisterRecord {
  no: number;
  at: string;
  idempotencyKey: string | null;
  values: Record<string, unknown>;
}

export interface RegisterState {
  fault: Fault;
  next: number;
  records: Record<string, RegisterRecord[]>;
  /** What was done to its columns. */
  edits: ColumnEdit[];
  /** Options added by hand, by table and column. */
  extra: Record<string, string[]>;
}
