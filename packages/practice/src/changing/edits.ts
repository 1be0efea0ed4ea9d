/** What may be done to an API. */
export const apiEditKinds = {
  required: 'make it required',
  renamed: 'rename it',
  'option-renamed': 'rename its first option',
  retired: 'remove it',
  moved: 'move it to another path',
} as const;
export type ApiEditKind = keyof typeof apiEditKinds;

/** One thing that was done to an API; `field` as it was called first. */
export interface ApiEdit {
  field: string;
  what: ApiEditKind;
  to: string;
}

interface Schema {
  type?: string;
  required?: string[];
  enum?: (string | number)[];
  items?: Schema;
  readOnly?: boolean;
  properties?: Record<string, Schema>;
}

/** An OpenAPI document as far as it can be changed. */
export interface ApiDocument {
  components: { schemas: Record<string, Schema> };
  paths: Record<string, unknown>;
}

/** A collection of an API whose records can be changed. */
export interface Collection {
  /** Its path below the API's address: `/contacts`. */
  path: string;
  /** The names of the schemas that describe a record; the first is that of a new one. */
  schemas: readonly [created: string, ...others: string[]];
}

/** The fields of a record that may be sent, by name. */
export const fieldsIn = (document: ApiDocument, { schemas: [created] }: Collection): Record<string, Schema> =>
  Object.fromEntries(
    Object.entries(document.components.schemas[created]?.properties ?? {}).filter(([, each]) => !each.readOnly),
  );

/** The options of a field, or of each item of it; numbers that stand for something are none that could be called otherwise. */
export const optionsIn = (schema: Schema | undefined): string[] =>
  (schema?.enum ?? schema?.items?.enum ?? []).filter(each => typeof each === 'string');

/** Where a collection is after all that was done. */
export const pathOf = ({ path }: Collection, edits: readonly ApiEdit[]): string =>
  edits.findLast(each => each.what === 'moved')?.to ?? path;

/** A document that says what an API takes after all that was done to it. */
export function editedDocument<T extends ApiDocument>(given: T, collection: Collection, edits: readonly ApiEdit[]): T {
  const document = structuredClone(given);
  const [created] = collection.schemas;
  for (const { field, what, to } of edits)
    for (const name of collection.schemas) {
      const schema = document.components.schemas[name];
      const property = schema?.properties?.[field];
      if (!schema?.properties || !property) continue;
      const named = (key: string) => (key === field ? to : key);
      if (what === 'required' && name === created) schema.required = [...new Set([...(schema.required ?? []), field])];
      if (what === 'renamed') {
        schema.properties = Object.fromEntries(
          Object.entries(schema.properties).map(([key, each]) => [named(key), each]),
        );
        if (schema.required) schema.required = schema.required.map(named);
      }
      if (what === 'retired') {
        delete schema.properties[field];
        if (schema.required) schema.required = schema.required.filter(each => each !== field);
      }
      const options = property.enum ? property : property.items;
      if (what === 'option-renamed' && options?.enum) options.enum = [to, ...options.enum.slice(1)];
    }
  const path = pathOf(collection, edits);
  document.paths = Object.fromEntries(
    Object.entries(document.paths).map(([key, each]) => [
      key === collection.path || key.startsWith(`${collection.path}/`) ? path + key.slice(collection.path.length) : key,
      each,
    ]),
  );
  return document;
}

/** What is wrong with a value, and where. */
export interface Wrong {
  field: string;
  detail: string;
}

type Values = Record<string, unknown>;

/** A record as it is sent, as the API took it first; or what it has against it after all that was done. */
export function asBefore(
  document: ApiDocument,
  collection: Collection,
  edits: readonly ApiEdit[],
  sent: Values,
  isNew: boolean,
): { values: Values } | { wrong: Wrong[] } {
  const wrong: Wrong[] = [];
  const values = { ...sent };
  const fields = fieldsIn(document, collection);
  for (const { field, what, to } of edits) {
    const name = edits.find(each => each.field === field && each.what === 'renamed')?.to ?? field;
    const value = values[name];
    if (what === 'required' && isNew && (value === undefined || value === null || value === ''))
      wrong.push({ field: name, detail: 'is required' });
    if ((what === 'renamed' || what === 'retired') && sent[field] !== undefined && field !== to)
      wrong.push({ field, detail: 'is unknown' });
    if (what === 'option-renamed') {
      const [was] = optionsIn(fields[field]);
      const all = Array.isArray(value) ? value : [value];
      if (all.includes(was)) wrong.push({ field: name, detail: `“${was}” is not one of the options` });
      const back = (each: unknown) => (each === to ? was : each);
      if (value !== undefined) values[name] = Array.isArray(value) ? value.map(back) : back(value);
    }
  }
  for (const { field, what, to } of edits)
    if (what === 'renamed' && values[to] !== undefined) {
      values[field] = values[to];
      delete values[to];
    }
  return wrong.length > 0 ? { wrong } : { values };
}

/** A record as the API keeps it, as it is answered after all that was done. */
export function asAfter(
  document: ApiDocument,
  collection: Collection,
  edits: readonly ApiEdit[],
  kept: Values,
): Values {
  const fields = fieldsIn(document, collection);
  const values = { ...kept };
  for (const { field, what, to } of edits) {
    const value = values[field];
    if (value === undefined) continue;
    const [was] = optionsIn(fields[field]);
    const now = (each: unknown) => (each === was ? to : each);
    if (what === 'option-renamed') values[field] = Array.isArray(value) ? value.map(now) : now(value);
    if (what === 'retired') delete values[field];
  }
  return Object.fromEntries(
    Object.entries(values).map(([key, value]) => [
      edits.find(each => each.field === key && each.what === 'renamed')?.to ?? key,
      value,
    ]),
  );
}
