import type { RehomeInput, RehomeView, RouteView } from '@grammata/contract';
import { useState } from 'react';
import { wordsFor } from '../../api';
import { useForms, useTargets } from '../../lists';
import { Act, Combobox, count, counted, Fault, Note, Press } from '../../ui';
import { useProposeRehome, useRehome } from '../queries';
import { useWorkbench } from '../workbench';

/** What the route hangs on, and another in its place: every line goes along. */
export function HangsOn() {
  const { route } = useWorkbench('route');
  const [open, setOpen] = useState<string | null>(null);
  const rows: { key: string; words: string; name: string; about: Pick<RehomeInput, 'what' | 'was'> }[] = [
    { key: 'form', words: 'Form', name: route.form.name, about: { what: 'form', was: route.formId } },
    ...route.targets.map(({ id, name }) => ({
      key: id,
      words: 'Target',
      name,
      about: { what: 'target' as const, was: id },
    })),
  ];
  return (
    <section aria-labelledby="hangs-on" className="border-t border-rule pt-4">
      <h2 id="hangs-on">Form and targets</h2>
      <ul className="mt-1">
        {rows.map(({ key, words, name, about }) => (
          <li key={key} className="border-b border-rule py-2 last:border-b-0">
            <p className="flex flex-wrap items-baseline gap-x-2">
              <span className="text-ink-2">{words}</span>
              <b className="font-semibold">{name}</b>
              <span className="flex-1" />
              <Act aria-expanded={open === key} onClick={() => setOpen(open === key ? null : key)}>
                {open === key ? 'Close' : 'Switch…'}
              </Act>
            </p>
            {open === key && <Rehome about={about} onDone={() => setOpen(null)} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Rehome({ about: { what, was }, onDone }: { about: Pick<RehomeInput, 'what' | 'was'>; onDone: () => void }) {
  const { route, editing } = useWorkbench('route', 'editing');
  const forms = useForms().data ?? [];
  const targets = useTargets().data ?? [];
  const [input, setInput] = useState<RehomeInput>({ what, was, now: '', chosen: {}, revision: -1 });
  const propose = useProposeRehome(route.id);
  const take = useRehome(route.id);
  const ask = async (more: Partial<RehomeInput>) => {
    const next = { ...input, ...more };
    setInput(next);
    take.reset();
    // What is shown is what is stored.
    if (await editing.flush()) propose.mutate(next);
  };
  const options =
    what === 'form'
      ? forms
          .filter(each => each.id !== route.formId && each.state !== 'ignored')
          .map(each => ({
            value: each.id,
            label: each.name,
            detail: `${each.intakeName}, ${counted(each.submissions, 'submission')}`,
          }))
      : targets.filter(each => each.id !== was).map(each => ({ value: each.id, label: each.name }));
  const view = propose.data;
  return (
    <div className="pt-2 pb-1">
      <Combobox
        label={what === 'form' ? 'New form' : 'New target'}
        options={options}
        value={input.now}
        onPick={now => void ask({ now, chosen: {} })}
        placeholder={options.length === 0 ? 'no other available' : 'choose…'}
      />
      {propose.error && <Fault>{wordsFor(propose.error)}</Fault>}
      {view && (
        <>
          <Moves
            view={view}
            isBusy={propose.isPending}
            onChoose={(was, now) => void ask({ chosen: { ...input.chosen, [was]: now } })}
          />
          <Fares view={view} route={route} what={what} />
          {take.error && <Fault>{wordsFor(take.error)}</Fault>}
          <p className="mt-3">
            <Press
              onClick={() => take.mutate({ ...input, revision: view.revision }, { onSuccess: onDone })}
              disabled={take.isPending || propose.isPending}
            >
              Apply to draft
            </Press>
          </p>
        </>
      )}
    </div>
  );
}

/** What becomes of each question, operation and field; a question and an operation can be chosen otherwise. */
function Moves({
  view: { moves, offered },
  isBusy,
  onChoose,
}: {
  view: RehomeView;
  isBusy: boolean;
  onChoose: (was: string, now: string) => void;
}) {
  const options = offered.map(({ key, label }) => ({ value: key, label }));
  return (
    <table className="ledger mt-3 w-full table-fixed border-t border-rule text-left" aria-busy={isBusy}>
      <thead className="text-fine text-ink-3">
        <tr>
          <th className="w-2/5 py-1 pr-3 font-normal">Now</th>
          <th className="py-1 font-normal">New</th>
        </tr>
      </thead>
      <tbody>
        {moves.map(({ what, callId, was, label, now }) => (
          <tr key={`${what} ${callId} ${was}`} className="align-baseline">
            <th scope="row" className={`truncate py-1 pr-3 font-medium ${what === 'field' ? 'pl-4' : ''}`} title={was}>
              {label}
            </th>
            <td className="py-1">
              {what === 'field' ? (
                now === null ? (
                  <LooseWord />
                ) : (
                  <code className="font-mono text-small">{now}</code>
                )
              ) : (
                <Combobox
                  isBare
                  label={`Replacement for ${label}`}
                  options={options}
                  value={now ?? ''}
                  none="none: unresolved"
                  placeholder="none: unresolved"
                  onPick={next => onChoose(what === 'operation' ? callId! : was, next)}
                />
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const LooseWord = () => <span className="text-ochre">△ unresolved</span>;

function Fares({
  view: { moves, samples, proofs },
  route,
  what,
}: {
  view: RehomeView;
  route: RouteView;
  what: RehomeInput['what'];
}) {
  const loose = moves.filter(each => each.now === null).length;
  return (
    <div className="mt-2 space-y-1" role="status">
      <Note tone={loose === 0 ? 'fine' : 'look'}>
        {loose === 0
          ? 'Everything has a replacement.'
          : `${count(loose)} unresolved: kept in the mapping, but not sent until you choose a replacement.`}
      </Note>
      <Note tone={samples.held === 0 ? (samples.looked === 0 ? 'look' : 'fine') : 'trouble'}>
        {samples.looked === 0
          ? 'No submission stored to try it on.'
          : samples.held === 0
            ? `All ${count(samples.looked)} newest submissions can be sent.`
            : `${count(samples.held)} of the ${count(samples.looked)} newest can’t be sent. ${samples.reasons[0] ?? ''}`}
      </Note>
      {proofs > 0 && (
        <Note tone="look">
          {what === 'form'
            ? `${counted(proofs, 'proof')} ${proofs === 1 ? 'belongs' : 'belong'} to the current form. Approve new ones for the other.`
            : `${counted(proofs, 'proof')} ${proofs === 1 ? 'belongs' : 'belong'} to the current target and will differ.`}
        </Note>
      )}
      {route.state !== 'draft' && (
        <Note tone="goes">The live version stays unchanged until you publish the draft.</Note>
      )}
    </div>
  );
}
