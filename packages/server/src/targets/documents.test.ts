import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import SwaggerParser from '@apidevtools/swagger-parser';
import { readOpenApi } from '@grammata/core/target';

// Documents of others: the examples of the package @readme/oas-examples, and the largest public one in the registry (GitHub’s, in
// @octokit/openapi). swagger-parser, which resolves references by itself, says what is in them.

const root = path.resolve(__dirname, '../../../../node_modules');
const folders = ['3.0', '3.1'].map(version => path.join(root, '@readme/oas-examples', version, 'json'));
const files = folders.flatMap(folder =>
  readdirSync(folder)
    .filter(name => name.endsWith('.json'))
    .map(name => path.join(folder, name)),
);
const methods = ['get', 'post', 'put', 'patch', 'delete'];

interface Schema {
  type?: string | string[];
  properties?: Record<string, Schema>;
  allOf?: Schema[];
  oneOf?: Schema[];
  anyOf?: Schema[];
}
interface Document {
  openapi: string;
  paths?: Record<string, Record<string, unknown> & { parameters?: { in: string; name: string }[] }>;
}
interface Described {
  parameters?: { in: string; name: string }[];
  requestBody?: { content?: Record<string, { schema?: Schema }> };
}

/** What an independent reader finds: each operation with its parameters, and the outermost properties of a body in JSON. */
function operationsIn({ paths = {} }: Document) {
  return Object.entries(paths).flatMap(([at, item]) =>
    methods.flatMap(method => {
      const of = item[method] as Described | undefined;
      if (!of) return [];
      const parameters = [...(item.parameters ?? []), ...(of.parameters ?? [])]
        .filter(each => each.in === 'path' || each.in === 'query')
        .map(each => `${each.in} ${each.name}`);
      const json = Object.entries(of.requestBody?.content ?? {}).find(([type]) =>
        /^application\/(.+\+)?json\b/i.test(type),
      );
      return [
        {
          at: `${method.toUpperCase()} ${at}`,
          parameters: new Set(parameters),
          body: new Set(namesIn(json?.[1].schema)),
        },
      ];
    }),
  );
}

const namesIn = (schema: Schema | undefined): string[] => [
  ...Object.keys(schema?.properties ?? {}),
  ...[...(schema?.allOf ?? []), ...(schema?.oneOf ?? []), ...(schema?.anyOf ?? [])].flatMap(namesIn),
];

test('there are documents to be read', () => expect(files.length).toBeGreaterThan(40));

test.each(files.map(file => [path.relative(root, file), file]))('%s', async (_, file) => {
  const document = JSON.parse(readFileSync(file, 'utf8')) as Document;
  const whole = (await SwaggerParser.dereference(structuredClone(document) as never, {
    resolve: { external: false },
    dereference: { circular: 'ignore' },
  }).catch(() => document)) as unknown as Document;
  const told = operationsIn(whole);
  const read = readOpenApi(document as never);
  if ('fault' in read) return expect(told).toEqual([]);
  expect(read.operations.map(each => `${each.method} ${each.path}`)).toEqual(told.map(each => each.at));
  for (const [index, operation] of read.operations.entries()) {
    const own = told[index]!;
    const parameters = operation.fields.filter(each => each.in === 'path' || each.in === 'query');
    expect(new Set(parameters.map(each => `${each.in} ${each.pointer}`))).toEqual(own.parameters);
    if (operation.body !== 'json' || own.body.size === 0) continue;
    const outermost = operation.fields
      .filter(each => !each.in)
      .map(each => each.pointer.split('/')[1]!.replaceAll('~1', '/').replaceAll('~0', '~'));
    expect(new Set(outermost)).toEqual(own.body);
  }
});

test('a document of 14 MB: every operation, and nearly every field', () => {
  const file = path.join(root, '@octokit/openapi/generated/api.github.com.deref.json');
  const document = JSON.parse(readFileSync(file, 'utf8')) as Document;
  const told = operationsIn(document);
  const read = readOpenApi(document as never);
  if ('fault' in read) throw new Error(read.fault);
  expect(read.operations).toHaveLength(told.length);
  expect(told.length).toBeGreaterThan(700);
  const fields = (of: Iterable<number>) => [...of].reduce((sum, each) => sum + each, 0);
  expect(
    fields(
      read.operations.map(each => each.fields.filter(field => field.in === 'path' || field.in === 'query').length),
    ),
  ).toBe(fields(told.map(each => each.parameters.size)));
});
