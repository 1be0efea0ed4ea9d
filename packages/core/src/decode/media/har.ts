import { isJsonObject, parseJson, valueAt, type Json } from '../../submission';
import { most, type Note } from '../notes';
import type { MediaReader } from './reader';

type ReadBody = (text: string, type: string) => { document: Json; notes: Note[] };

/** HTTP Archive 1.2: the bodies that were posted in it, each read by its own media type. */
export const har = (readBody: ReadBody): MediaReader => ({
  id: 'har',
  label: 'HTTP archive',
  isStated: type => type === 'application/har+json' || type === 'application/har',
  looksLike: ({ text }) => /^\s*\{\s*"log"\s*:\s*\{/.test(text),
  read({ text }) {
    const entries = valueAt(parseJson(text) ?? null, '/log/entries');
    if (!Array.isArray(entries)) return { code: 'media.har', message: 'Not a HAR file: no log with entries.' };
    const posted = entries.flatMap(entry => {
      const body = isJsonObject(entry) ? valueAt(entry, '/request/postData') : undefined;
      return isJsonObject(body) && typeof body.text === 'string'
        ? [{ text: body.text, type: String(body.mimeType ?? '') }]
        : [];
    });
    if (posted.length === 0)
      return { code: 'media.har', message: `None of its ${entries.length} requests carries a body.` };
    const read = posted.slice(0, most.parts).map(({ text: body, type }) => readBody(body, type));
    const documents = read.flatMap(({ document }) =>
      Array.isArray(document) ? document : document === null ? [] : [document],
    );
    return { document: documents, notes: read.flatMap(each => each.notes).slice(0, 20) };
  },
});
