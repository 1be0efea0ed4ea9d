import type { SupposedView, SupposeInput } from '@grammata/contract';
import { formSuppositions, targetSuppositions, wholeSuppositions } from '@grammata/core/drift';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { useForm } from '../forms/queries';
import { useForms, useOffered } from '../lists';
import { useOperation } from '../targets/queries';
import { Act, Choice, Combobox, count, counted, Fault, LinesBox, Press, RouteStateWord } from '../ui';
import { useSuppose } from './queries';

const nothing: SupposeInput = {
  subject: 'form',
  subjectId: '',
  operationId: '',
  key: '',
  what: 'gone',
  option: '',
  message: '',
};

/** What would break if a form or a target were different: asked before anybody does it. */
export function WhatIf({ onClose }: { onClose: () => void }) {
  const forms = useForms().data ?? [];
  const targets = useOffered().data ?? [];
  const [supposed, setSupposed] = useState<SupposeInput>(nothing);
  const ask = useSuppose();
  const { subject, subjectId, operationId, key, what, option } = supposed;
  const isForm = subject === 'form';
  const form = useForm(isForm && subjectId !== '' ? subjectId : null).data;
  const operation = useOperation(subjectId, !isForm && operationId !== '' ? operationId : null).data?.operation;
  const set = (more: Partial<SupposeInput>) => {
    ask.reset();
    setSupposed({ ...supposed, ...more });
  };
  const things = [
    ...forms.map(each => ({ value: `form ${each.id}`, label: each.name, group: 'Forms' })),
    ...targets.flatMap(each =>
      each.operations.map(one => ({ value: `target ${each.id} ${one.id}`, label: one.label, group: each.name })),
    ),
  ];
  const pickThing = (value: string) => {
    const [kind, id = '', ...rest] = value.split(' ');
    set({ ...nothing, subject: kind === 'form' ? 'form' : 'target', subjectId: id, operationId: rest.join(' ') });
  };
  const fields = form?.schema.fields ?? operation?.fields.filter(each => !each.readOnly) ?? [];
  const options =
    what !== 'option-renamed'
      ? []
      : isForm
        ? (form?.schema.fields.find(each => each.key === key)?.options.map(each => each.value) ?? [])
        : (operation?.fields.find(each => each.key === key)?.options ?? []);
  const needsOption = what === 'option-renamed';
  const ofMessage = what === 'message';
  const isWhole = ofMessage
    ? subjectId !== '' && supposed.message.trim() !== ''
    : key !== '' && (!needsOption || option !== '');
  return (
    <section aria-label="What if" className="mt-4 border-y border-ink bg-raised px-4 py-4">
      <div className="flex items-baseline justify-between">
        <h2>What if…</h2>
        <Act onClick={onClose}>Close</Act>
      </div>
      <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <Combobox
          label="Form or target"
          options={things}
          value={subjectId === '' ? '' : isForm ? `form ${subjectId}` : `target ${subjectId} ${operationId}`}
          onPick={pickThing}
          placeholder="choose a form or an operation"
        />
        {!ofMessage && (
          <Combobox
            label={isForm ? 'Which question' : 'Which field'}
            options={fields.map(each => ({ value: each.key, label: each.label || each.key }))}
            value={key}
            onPick={next => set({ key: next, option: '' })}
            placeholder={subjectId === '' ? 'choose the form or target first' : 'choose…'}
          />
        )}
        <Choice<string>
          label="What changes"
          value={what}
          options={isForm ? { ...formSuppositions, ...wholeSuppositions } : targetSuppositions}
          onChange={next => set({ what: next as SupposeInput['what'], option: '' })}
        />
        {ofMessage && (
          <LinesBox
            className="sm:col-span-2"
            label="The message"
            hint="A message with the new structure."
            rows={6}
            value={supposed.message}
            onChange={message => set({ message })}
          />
        )}
        {needsOption && (
          <Choice<string>
            label="Which option"
            value={option}
            options={
              Object.fromEntries([['', 'choose…'], ...options.map(each => [each, each])]) as Record<string, string>
            }
            onChange={next => set({ option: next })}
          />
        )}
      </div>
      <p className="mt-3">
        <Press onClick={() => ask.mutate(supposed)} disabled={!isWhole || ask.isPending}>
          {ask.isPending ? 'Trying…' : 'Show what would break'}
        </Press>
      </p>
      {ask.error && <Fault>{wordsFor(ask.error)}</Fault>}
      {ask.data && <Supposed all={ask.data} ofMessage={ofMessage} />}
    </section>
  );
}

/** True where something that goes now would not go, or not as it was approved. */
const isBroken = ({ held, heldThen, differing, uses }: SupposedView, ofMessage: boolean): boolean =>
  heldThen > held || differing > 0 || (ofMessage && uses > 0);

const usedWords = ({ uses }: SupposedView): string =>
  uses === 0 ? 'does not use it' : `uses it in ${counted(uses, 'place')}`;

/** How a route fares with one message, and what of it is not there. */
function messageWords({ uses, looked, heldThen }: SupposedView): string {
  const lacks =
    uses === 0
      ? 'all questions it uses are present'
      : `${counted(uses, 'question')} it uses ${uses === 1 ? 'is' : 'are'} missing`;
  if (heldThen === 0) return `${lacks}; ${looked === 1 ? 'it could be sent' : 'all could be sent'}`;
  return `${lacks}; ${looked === 1 ? 'it could not be sent' : `${count(heldThen)} of ${count(looked)} could not be sent`}`;
}

function fareWords({ looked, held, heldThen }: SupposedView): string {
  if (looked === 0) return 'no submission stored to try it on';
  if (heldThen > held)
    return `${count(heldThen)} of the ${count(looked)} newest could not be sent, ${held === 0 ? 'and all can' : count(held)} now`;
  return held === 0
    ? `all ${count(looked)} newest could still be sent`
    : `${count(held)} of the ${count(looked)} newest can’t be sent as it stands, and no more then`;
}

function Supposed({ all, ofMessage }: { all: SupposedView[]; ofMessage: boolean }) {
  const broken = all.filter(each => isBroken(each, ofMessage));
  return (
    <div className="mt-4 border-t border-rule pt-3">
      <p role="status" className="font-serif text-lead">
        {all.length === 0
          ? 'No route uses it.'
          : broken.length === 0
            ? 'Nothing would break.'
            : `${counted(broken.length, 'route')} would break.`}
      </p>
      <ul aria-label="Routes">
        {all.map(each => (
          <li key={each.routeId} className="border-b border-rule py-2">
            <p className="flex flex-wrap items-baseline gap-x-3">
              <span
                aria-hidden
                className={`w-3 font-mono font-bold ${isBroken(each, ofMessage) ? 'text-crimson' : 'text-verdigris'}`}
              >
                {isBroken(each, ofMessage) ? '!' : '✓'}
              </span>
              <Link className="font-semibold hover:underline" to={`/routes/${each.routeId}`}>
                {each.name}
              </Link>
              <RouteStateWord state={each.state} />
              <span className="text-ink-2">
                {ofMessage ? messageWords(each) : `${usedWords(each)}; ${fareWords(each)}`}
                {each.proofs > 0 &&
                  `; ${each.differing === 0 ? 'all proofs hold' : `${count(each.differing)} of ${count(each.proofs)} proofs differ`}`}
              </span>
            </p>
            {each.heldThen > each.held && each.reasons.length > 0 && (
              <p className="pl-5 font-serif text-ink-2">{each.reasons.join(' ')}</p>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
