import { kits, sites } from '../builders/forms';

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
  {
    key: 'kit_requests',
    title: 'Kit requests',
    columns: [
      { key: 'record_no', title: 'Record number', type: 'whole', readOnly: true },
      { key: 'asked_by', title: 'Asked by', type: 'string', required: true },
      { key: 'email', title: 'E-mail', type: 'string', required: true },
      { key: 'street', title: 'Street', type: 'string' },
      { key: 'town', title: 'Town', type: 'string' },
      { key: 'postcode', title: 'Postcode', type: 'string', maxLength: 10 },
      { key: 'needed_by', title: 'Needed by', type: 'date' },
      { key: 'remarks', title: 'Remarks', type: 'string' },
    ],
  },
  {
    key: 'kit_items',
    title: 'Kit items',
    columns: [
      { key: 'record_no', title: 'Record number', type: 'whole', readOnly: true },
      { key: 'request_no', title: 'Number of the request', type: 'whole', required: true },
      { key: 'kit', title: 'Kit', type: 'option', required: true, options: kits },
      { key: 'quantity', title: 'Quantity', type: 'whole', required: true },
    ],
  },
  {
    key: 'access_log',
    title: 'Access log',
    columns: [
      { key: 'record_no', title: 'Record number', type: 'whole', readOnly: true },
      { key: 'site', title: 'Site', type: 'option', required: true, options: sites },
      { key: 'who', title: 'Who', type: 'string', required: true },
      { key: 'went_in', title: 'Went in', type: 'string', required: true },
      { key: 'came_out', title: 'Came out', type: 'string' },
      { key: 'locked', title: 'Gate locked', type: 'flag' },
      { key: 'remarks', title: 'Remarks', type: 'string' },
    ],
  },
];
