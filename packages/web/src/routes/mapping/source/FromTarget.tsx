import type { ChoicesView, RouteTarget } from '@grammata/contract';
import { asText, percentDecoded, type Json } from '@grammata/core/submission';
import { useState } from 'react';
import { wordsFor } from '../../../api';
import { useChoices } from '../../../targets/queries';
import { Act, Combobox, count, Fault } from '../../../ui';

/** Values that are the target’s own, such as an identifier: picked from what it answers, or out of a page’s address. */
export function FromTarget({
  target,
  value,
  onPick,
}: {
  target: RouteTarget | null;
  value: Json;
  onPick: (value: string) => void;
}) {
  const [operationId, setOperationId] = useState('');
  const choices = useChoices(target?.id ?? '', operationId);
  const lists =
    target?.operations.filter(
      each =>
        each.method === 'GET' &&
        // What it answers may not be known before it is asked.
        (each.answer === undefined || each.answer.length === 0 || each.answer.some(part => part.items)) &&
        !each.fields.some(field => field.required),
    ) ?? [];
  const parts = partsOfAddress(asText(value));
  return (
    <div className="mt-2 space-y-2">
      {parts.length > 0 && (
        <p className="text-ink-2">
          Address: use{' '}
          {parts.map(({ part, where }) => (
            <Act key={where} className="mr-3 font-mono text-small" title={where} onClick={() => onPick(part)}>
              {part}
            </Act>
          ))}
          from it?
        </p>
      )}
      {lists.length > 0 && (
        <div className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
          <Combobox
            label={`Or choose from the records of ${target!.name}`}
            options={lists.map(each => ({ value: each.id, label: each.label, detail: each.path }))}
            value={operationId}
            placeholder="load a list…"
            onPick={setOperationId}
          />
          {operationId !== '' && choices.data && (
            <Combobox
              label="Current records"
              hint={hintFor(choices.data)}
              options={choices.data.choices.map(each => ({ ...each, detail: each.value }))}
              value={choices.data.choices.some(each => each.value === asText(value)) ? asText(value) : ''}
              onPick={onPick}
            />
          )}
          {choices.error && <Fault>{wordsFor(choices.error)}</Fault>}
        </div>
      )}
    </div>
  );
}

/** What is to be known of a list before one of it is picked. */
const hintFor = ({ choices, isPart }: ChoicesView): string | undefined =>
  choices.length === 0
    ? 'No records.'
    : isPart
      ? `The first ${count(choices.length)}; the target may have more. Enter the value of one that is not listed.`
      : undefined;

/** What may be an identifier in the address of a page: parts of its path that hold digits or are long, and values of its query. */
export function partsOfAddress(text: string): { part: string; where: string }[] {
  if (!/^https?:\/\//i.test(text) || !URL.canParse(text)) return [];
  const { pathname, searchParams } = new URL(text);
  const path = pathname.split('/').filter(Boolean).map(percentDecoded);
  const ids = path
    .map((part, index) => ({
      part,
      where: `/${[...path.slice(0, index), '{id}', ...path.slice(index + 1)].join('/')}`,
    }))
    .filter(({ part }) => /\d/.test(part) || part.length > 12);
  return [...ids, ...[...searchParams].map(([name, part]) => ({ part, where: `?${name}={id}` }))].filter(
    each => each.part !== '',
  );
}
