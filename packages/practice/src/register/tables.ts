import { sites } from '../builders/forms';

export interface Column {
  key: string;
  title: string;
  type: 'string' | 'number' | 'whole' | 'flag' | 'date' | 'timestamp' | 'option' | 'options' | 'files';
  required?: boolean;
  readOnly?: boolean;
  options?: string[];
  maxLength?: number;
  description?: string;
}

export interface Table {
  key: string;
  title: string;
  columns: Column[];
}

/** The register's tables as they are out of the box. */
export const tables: Table[] = [
  {
    key: 'samples',
    title: 'Samples',
    columns: [
      { key: 'record_no', title: 'Record number', type: 'whole', readOnly: true },
      { key: 'site', title: 'Site', type: 'option', required: true, options: sites },
      { key: 'sampled_at', title: 'Sampled at', type: 'timestamp', required: true, description: 'RFC 3339' },
      { key: 'temp_c', title: 'Temperature, °C', type: 'number' },
      { key: 'ph', title: 'pH', type: 'number' },
      { key: 'nitrate_mg_l', title: 'Nitrate, mg/l', type: 'number' },
      { key: 'signs', title: 'Signs seen', type: 'string', maxLength: 120, description: 'Divided by semicolons' },
      { key: 'note', title: 'Note', type: 'string', maxLength: 2000 },
      { key: 'observer', title: 'Observer', type: 'string' },
      { key: 'observer_email', title: 'Observer’s e-mail', type: 'string', required: true },
      { key: 'party_size', title: 'People there', type: 'whole' },
      { key: 'photos', title: 'Photos', type: 'files' },
      { key: 'source', title: 'Where it came from', type: 'string' },
    ],
  },
  {
    key: 'followups',
    title: 'Follow-ups',
    columns: [
      { key: 'record_no', title: 'Record number', type: 'whole', readOnly: true },
      { key: 'site', title: 'Site', type: 'option', required: true, options: sites },
      { key: 'reported_on', title: 'Reported on', type: 'date', required: true },
      { key: 'what', title: 'What was seen', type: 'string', required: true },
      {
        key: 'urgency',
        title: 'Urgency',
        type: 'option',
        required: true,
        options: ['today', 'this week', 'when passing'],
      },
      { key: 'call_back', title: 'Whom to call', type: 'string' },
      { key: 'details', title: 'Details', type: 'string' },
    ],
  },
];
