/** What a target is read from: a list of its tables and columns, an OpenAPI document, a GraphQL schema, an example; or that it is a mail server, or files of rows. */
export const readingKinds = ['tables', 'openapi', 'graphql', 'example', 'mail', 'files'] as const;
export type ReadingKind = (typeof readingKinds)[number];
