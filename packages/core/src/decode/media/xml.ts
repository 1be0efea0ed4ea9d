import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { isJsonObject, type Json, type JsonObject } from '../../submission';
import { most, type Note } from '../notes';
import type { MediaReader } from './reader';

/** XML 1.0. Entities other than the five predefined and numeric ones are inert; external ones are never fetched. */
export const xml: MediaReader = {
  id: 'xml',
  label: 'XML',
  isStated: type => /^(application|text)\/xml$/.test(type) || type.endsWith('+xml'),
  looksLike: ({ text }) => /^\s*<(\?xml|[a-z_][\w.:-]*[\s/>])/i.test(text) && !/^\s*<(!doctype html|html)/i.test(text),
  read({ text }) {
    const safe = withoutDoctype(text);
    const crowded = tooManyAttributes(safe);
    if (crowded) return crowded;
    const checked = XMLValidator.validate(safe);
    if (checked !== true)
      return {
        code: 'media.xml',
        message: `This is not XML: ${checked.err.msg.replace(/\.$/, '')}, at line ${checked.err.line}.`,
      };
    try {
      const document = tidied(parser.parse(safe) as Json);
      const [root] = isJsonObject(document) ? Object.values(document) : [];
      const notes =
        safe === text || !/<!ENTITY/i.test(text)
          ? []
          : [{ code: 'media.entities', message: 'It defines entities; they were not expanded.' }];
      return { document: root ?? null, notes };
    } catch (error) {
      return { code: 'media.xml', message: `This XML can’t be read: ${(error as Error).message}.` };
    }
  },
};

/** The text without its document type declaration (XML 1.0 §2.8), the internal subset included. */
function withoutDoctype(text: string): string {
  const start = text.search(/<!DOCTYPE/i);
  if (start < 0) return text;
  const subset = text.indexOf('[', start);
  const plain = text.indexOf('>', start);
  const closed = subset >= 0 && subset < plain ? text.indexOf(']', subset) : start;
  const end = closed < 0 ? -1 : text.indexOf('>', closed);
  return end < 0 ? text.slice(0, start) : text.slice(0, start) + text.slice(end + 1);
}

/** Why a text is not read that has an element with more attributes than any form's. */
function tooManyAttributes(text: string): Note | null {
  for (let at = text.indexOf('<'); at >= 0;) {
    const end = text.indexOf('>', at);
    const tag = text.slice(at, end < 0 ? undefined : end);
    at = end < 0 ? -1 : text.indexOf('<', end);
    let count = 0;
    for (let sign = tag.indexOf('='); sign >= 0; sign = tag.indexOf('=', sign + 1)) count++;
    if (count > most.attributes)
      return { code: 'media.xml', message: `One of its elements has more than ${most.attributes} attributes.` };
  }
  return null;
}

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  textNodeName: 'value',
  parseTagValue: false,
  parseAttributeValue: false,
  ignoreDeclaration: true,
  ignorePiTags: true,
  removeNSPrefix: true,
  trimValues: true,
  htmlEntities: true,
});

/** Elements that only hold like-named ones become lists: `<answers><a/><a/></answers>`. */
function tidied(value: Json): Json {
  if (Array.isArray(value)) return value.map(tidied);
  if (!isJsonObject(value)) return value;
  const entries = Object.entries(value);
  const only = entries.length === 1 ? entries[0]![1] : undefined;
  if (Array.isArray(only)) return only.map(tidied);
  return Object.fromEntries(entries.map(([key, each]) => [key, tidied(each)])) as JsonObject;
}
