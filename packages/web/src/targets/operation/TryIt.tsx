import type { OperationView } from '@grammata/contract';
import { exampleFor, isWriting, valueNamed } from '@grammata/core/target';
import type { Json } from '@grammata/core/submission';
import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { wordsFor } from '../../api';
import { Act, Fault, Press, TextBox, Wire } from '../../ui';
import { useTryOperation } from '../queries';
import { learned } from './AnswerPart';
import type { OperationForm } from './form';
import { textOfValue, typedValue } from './values';

/** Makes the request for real, with values typed here; its answer can be learned. */
export function TryIt({
  targetId,
  tryBaseUrl,
  view: { operation },
  isChanged,
}: {
  targetId: string;
  tryBaseUrl: string | null;
  view: OperationView;
  /** True while what is on the screen is not what is stored: what is stored is tried. */
  isChanged: boolean;
}) {
  const { setValue } = useFormContext<OperationForm>();
  const tried = useTryOperation(targetId);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [isOpen, setOpen] = useState(false);
  const fields = operation.fields.filter(each => !each.readOnly && each.type !== 'file' && each.type !== 'base64');
  const send = () => {
    const values: Record<string, Json> = {};
    for (const field of fields) {
      const value = typedValue(field, typed[field.key] ?? '');
      if (value !== undefined) values[field.key] = value;
    }
    tried.mutate({ operationId: operation.id, values });
  };
  const { data } = tried;
  return (
    <section aria-label="Try it">
      <h2 className="border-b border-ink pb-1.5">Try it</h2>
      {!isOpen ? (
        <p className="pt-2">
          <Act onClick={() => setOpen(true)}>Send this request</Act>{' '}
          <span className="text-ink-3">
            {tryBaseUrl ? 'to the test address' : isWriting(operation) ? 'stores real data at the target' : ''}
          </span>
        </p>
      ) : (
        <div className="pt-3">
          {isChanged && <p className="pb-2 font-serif text-ink-2">Save your changes first.</p>}
          <div className="grid gap-x-6 gap-y-3 sm:grid-cols-3">
            {fields.slice(0, 60).map(field => (
              <TextBox
                key={field.key}
                label={`${field.key}${field.required ? ', required' : ''}`}
                look="code"
                placeholder={
                  field.fixed !== undefined
                    ? textOfValue(field.fixed)
                    : (valueNamed(field.description) ?? field.description ?? textOfValue(exampleFor(field)))
                }
                value={typed[field.key] ?? ''}
                onChange={text => setTyped(before => ({ ...before, [field.key]: text }))}
              />
            ))}
          </div>
          <p className="mt-3">
            <Press quiet onClick={send} disabled={tried.isPending}>
              {tried.isPending ? 'Sending…' : 'Send'}
            </Press>
          </p>
          {tried.error && <Fault>{wordsFor(tried.error)}</Fault>}
          {data && (
            <div className="mt-3">
              <p role="status">
                {data.message}{' '}
                {data.answer !== null && (data.status ?? 0) < 300 && (
                  <Act onClick={() => setValue('answer', learned(data.answer), { shouldDirty: true })}>
                    Learn from this response
                  </Act>
                )}
              </p>
              {data.request && <Wire text={data.request} label="Request sent" />}
              {data.answer !== null && <Wire text={JSON.stringify(data.answer, null, 2)} label="Response received" />}
            </div>
          )}
        </div>
      )}
    </section>
  );
}
