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
      const parsed = parser.parse(safe) as Json;
      const document = tidied(parsed, repeatedIn(parsed));
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

/** How the parser calls the text of an element that has attributes or parts as well. */
const TEXT = '#text';

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  textNodeName: TEXT,
  parseTagValue: false,
  parseAttributeValue: false,
  ignoreDeclaration: true,
  ignorePiTags: true,
  removeNSPrefix: true,
  trimValues: true,
  htmlEntities: true,
});

/** Names of elements that stand several times side by side, anywhere. */
function repeatedIn(value: Json, found = new Set<string>()): Set<string> {
  if (Array.isArray(value)) value.forEach(each => repeatedIn(each, found));
  else if (isJsonObject(value))
    for (const [name, each] of Object.entries(value)) {
      if (Array.isArray(each)) found.add(name);
      repeatedIn(each, found);
    }
  return found;
}

/** `xsi:nil="true"` (XML Schema Part 1 §2.6.2): an element without a value. */
const isNil = (value: JsonObject): boolean => value.nil === 'true' && Object.keys(value).length === 1;

/**
 * Elements that only hold like-named ones become lists: `<answers><a/><a/></answers>`. An element with parts that stands alone
 * here and several times elsewhere is a list of one.
 */
function tidied(value: Json, repeated: Set<string>): Json {
  if (Array.isArray(value)) return value.map(each => tidied(each, repeated));
  if (!isJsonObject(value)) return value;
  if (isNil(value)) return null;
  const textName = ['value', 'text', TEXT].find(each => !Object.hasOwn(value, each))!;
  const entries = Object.entries(value).map(([name, each]): [string, Json] => [
    name === TEXT ? textName : name,
    isJsonObject(each) && repeated.has(name) && !isNil(each) ? [each] : each,
  ]);
  const only = entries.length === 1 ? entries[0]![1] : undefined;
  if (Array.isArray(only)) return only.map(each => tidied(each, repeated));
  return Object.fromEntries(entries.map(([key, each]) => [key, tidied(each, repeated)])) as JsonObject;
}
