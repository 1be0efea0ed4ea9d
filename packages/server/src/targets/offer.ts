import { readGraphql } from '@grammata/core/graphql';
import { parseJson, type Json } from '@grammata/core/submission';
import {
  appendOperations,
  isWriting,
  proposeRecipe,
  readDiscovery,
  readExample,
  readOpenApi,
  readTableFiles,
  usualRecipe,
  type DiscoveryRecipe,
  type Operation,
  type SecurityScheme,
  type ShownCredentials,
} from '@grammata/core/target';
import { parse as parseYaml } from 'yaml';

/** What a text that describes a target may be. */
export type OfferKind = 'tables' | 'openapi' | 'graphql' | 'example' | 'files';

/** What a text says that a target offers, with a sentence on it; or why it says nothing. */
export type Offer =
  | {
      operations: Operation[];
      says: string;
      asksFor?: SecurityScheme[];
      /** Base addresses, as they are written there. */
      servers?: string[];
      /** Who asked, in an example; and the example without it. */
      credentials?: ShownCredentials | null;
      text?: string;
      /** Where a list of tables has what, as it was concluded. */
      recipe?: DiscoveryRecipe;
    }
  | { fault: string };

/** What is known beside the text. */
export interface HowToRead {
  /** Where a list of tables has what, where somebody said so. */
  recipe?: DiscoveryRecipe | null;
  /** Where requests go, below the base address. */
  path?: string;
  /** The base address, where one is set: paths are below it. */
  baseUrl?: string;
}

/** Reads what a target offers out of a text. Heavy with large ones: it runs in a thread. */
export function offerIn(kind: OfferKind, text: string, how: HowToRead = {}): Offer {
  return readers[kind](text, how);
}

const readers: Record<OfferKind, (text: string, how: HowToRead) => Offer> = {
  tables(text, { recipe: given = null }) {
    const document = parseJson(text);
    if (document === undefined) return { fault: 'Not valid JSON.' };
    // Where nobody said what stands where, what the parts are called may tell.
    const recipe = given ?? proposeRecipe(document) ?? usualRecipe;
    const found = readDiscovery(document, recipe);
    if ('fault' in found) return found;
    const { operations } = found;
    const columns = operations.reduce((sum, operation) => sum + operation.fields.length, 0);
    const isGuess = given === null && recipe !== usualRecipe;
    const note = isGuess
      ? '. What stands where was concluded: look at it under Change, where a record is made above all'
      : '';
    return {
      operations,
      says: `lists ${operations.length} table${operations.length === 1 ? '' : 's'} with ${columns} columns${note}`,
      ...(isGuess && { recipe }),
    };
  },
  openapi(text) {
    const document = documentOf(text);
    if (document === undefined) return { fault: 'It is neither JSON nor YAML.' };
    const found = readOpenApi(document);
    if ('fault' in found) return found;
    return { operations: found.operations, asksFor: found.security, servers: found.servers, says: offersWords(found) };
  },
  graphql(text, { path = '/graphql' }) {
    const found = readGraphql(text, path);
    return 'fault' in found ? found : { operations: found.operations, says: offersWords(found) };
  },
  example(text, { baseUrl = '' }) {
    if (text.trim() === '') return { operations: [], says: 'is set by hand' };
    const found = readExample(text, baseUrl);
    if ('fault' in found) return found;
    const { operations, baseUrl: sentTo, credentials, text: without } = found;
    return {
      operations,
      says: `shows ${operations.length} operation${operations.length === 1 ? '' : 's'}`,
      servers: sentTo === null ? [] : [sentTo],
      credentials,
      text: without,
    };
  },
  files(text) {
    const files = readTableFiles(text);
    if ('fault' in files) return files;
    const operations = appendOperations(files);
    return { operations, says: `names ${operations.length} file${operations.length === 1 ? '' : 's'}` };
  },
};

function offersWords({ operations, notes }: { operations: Operation[]; notes: string[] }): string {
  const writing = operations.filter(isWriting).length;
  const unread = notes.length > 0 ? `. Of its document this was not read: ${notes.slice(0, 3).join(' ')}` : '';
  return `offers ${operations.length} operation${operations.length === 1 ? '' : 's'}, ${writing} of which ${writing === 1 ? 'stores' : 'store'} something${unread}`;
}

/** A document in JSON or YAML; undefined for neither. Anchors are not multiplied without end. */
function documentOf(text: string): Json | undefined {
  const json = parseJson(text);
  if (json !== undefined || /^\s*[<{[]/.test(text)) return json;
  try {
    const document: unknown = parseYaml(text, { maxAliasCount: 100 });
    return typeof document === 'object' ? (document as Json) : undefined;
  } catch {
    return undefined;
  }
}
