import { documentChanges, formChanges, readBoth, type DriftRequest } from '@grammata/core/drift';
import { isJsonObject, type Json } from '@grammata/core/submission';
import { Checked, documentOf, fileAndOptions, Misuse, type Command } from './command';

/** `grammata drift`: what a form sends, or a document says, otherwise than before; exit code 1 where something is. */
export const drift: Command = async args => {
  const { file } = fileAndOptions(args, {});
  const given = (await documentOf(file)) as Json;
  const { before, after } = isJsonObject(given) ? given : ({} as Record<string, Json>);
  if (before === undefined || after === undefined) throw new Misuse('give {"before":…,"after":…}.');
  const changes = changesIn(before, after);
  return new Checked({ changes }, changes.length === 0);
};

function changesIn(before: Json, after: Json) {
  if (Array.isArray(before) && Array.isArray(after)) {
    return formChanges(...readBoth(requestsOf(before, 'before'), requestsOf(after, 'after')));
  }
  if (Array.isArray(before) || Array.isArray(after))
    throw new Misuse('give requests before and after, or documents before and after, not one of each.');
  const changes = documentChanges(before, after);
  if (!changes) throw new Misuse('what is before and after are neither requests nor OpenAPI documents.');
  return changes;
}

function requestsOf(list: readonly Json[], where: string): DriftRequest[] {
  return list.map((each, at) => {
    const isRequest =
      isJsonObject(each) &&
      each.body !== undefined &&
      [each.type, each.query].every(one => one === undefined || one === null || typeof one === 'string');
    if (!isRequest) throw new Misuse(`${where}[${at}] is not a request: give {"body":…,"type"?,"query"?}.`);
    const { body, type, query } = each;
    return {
      body: body!,
      ...(typeof type === 'string' && { type }),
      ...(typeof query === 'string' && { query }),
    };
  });
}
