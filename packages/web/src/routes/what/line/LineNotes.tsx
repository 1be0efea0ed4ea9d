import { homeForField, homeForQuestion, isLikely, isSure, remedyFor } from '@grammata/core/match';
import { fieldsOf } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import { writable } from '@grammata/core/target';
import { checkKinds } from '@grammata/core/transform';
import { Link } from 'react-router';
import { useMemo } from 'react';
import { Act, count, counted, Note } from '../../../ui';
import { kindOf } from '../source/kindOf';
import type { LineRowProps } from './lineRowProps';

/** How many kinds of trouble a closed line tells of. */
const MOST_TROUBLES = 2;

/** What the margin says beside a line: what is proposed, loose, in trouble or blank, and what can be done about it. */
export function LineNotes(props: LineRowProps) {
  const { workbench, compiled, edit, onOpen, outcome, proposal, refusal } = props;
  const { line, field, chain } = compiled;
  const { rehearsal, showPlace } = workbench;
  const totals = rehearsal?.lines.find(each => each.lineId === line.id);
  if (!field) return <LooseField {...props} />;
  if (chain.faults[0]) return <Note tone="trouble">{chain.faults[0].message}</Note>;
  if (proposal) return <ProposalNote {...props} />;
  if (line.source === null)
    return field.required ? (
      <Note tone="trouble">
        Required, and nothing fills it yet. <Act onClick={() => onOpen(true)}>Fill it</Act>
      </Note>
    ) : null;
  if (!totals) return null;
  const notes = totals.troubles.slice(0, MOST_TROUBLES).map(({ code, message, ways, samples }) => (
    <Note key={code} tone="trouble">
      {samples.length > 1 && `${counted(samples.length, 'submission')}${ways > 1 ? ', one of them' : ''}: `}
      {message} <Act onClick={() => showPlace(samples[0]!)}>Show</Act>
    </Note>
  ));
  const more = totals.troubles.length - MOST_TROUBLES;
  const mayPass = totals.trouble > 0 && line.whenProblem === 'stop' && !field.required;
  const [misfit] = checkKinds(kindOf(line.source, workbench.references), line.cleaning).faults;
  return (
    <>
      <LooseQuestions {...props} />
      {refusal && (
        <Note tone="trouble">
          {workbench.target?.name} refused it for this sample: {refusal.message}.{' '}
          <Link className="act" to={`/deliveries/${refusal.deliveryId}`}>
            The delivery
          </Link>
        </Note>
      )}
      {totals.trouble > 0 && <Mended {...props} />}
      {misfit && <Note tone="look">{misfit.message}</Note>}
      {notes}
      {more > 0 && <Note tone="trouble">and {counted(more, 'more kind')} of trouble.</Note>}
      {mayPass && (
        <Note tone="look">
          Such a submission is held.{' '}
          <Act onClick={() => edit(each => ({ ...each, whenProblem: 'leaveOut' }))}>Leave the field out instead</Act>
        </Note>
      )}
      {totals.trouble > 0 && line.whenProblem === 'leaveOut' && !field.required && (
        <Note tone="goes">It goes without this field then.</Note>
      )}
      {totals.blank > 0 && line.whenBlank === 'leaveOut' && totals.trouble === 0 && (
        <Note tone="fine">
          {counted(totals.blank, 'blank')} {totals.blank === 1 ? 'is' : 'are'} left out; the field is optional.
        </Note>
      )}
      {outcome?.state === 'fine' && line.source.from === 'constant' && (
        <Note tone="fine">The same in every record.</Note>
      )}
    </>
  );
}

/** What would mend a line, wherever it comes from: tried on what is recorded before it is offered. */
function Mended({ workbench, compiled: { line, field }, edit }: LineRowProps) {
  const { route, samples, editing } = workbench;
  const key = line.source?.from === 'field' ? line.source.field : null;
  const { timeZone } = editing.draft.terms;
  const asked = route.form.schema.fields.find(each => questionKey(each.key) === key);
  const remedy = useMemo(
    () =>
      asked && field
        ? remedyFor(
            line,
            field,
            asked,
            samples.map(each => each.submission),
            { timeZone },
          )
        : null,
    [line, field, asked, samples, timeZone],
  );
  if (!remedy) return null;
  const { cleaning, words, fine, of } = remedy;
  return (
    <Note tone="look">
      This would mend {fine === of ? 'all of it' : `it for ${count(fine)} of ${count(of)}`}: {words}.{' '}
      <Act onClick={() => edit(each => ({ ...each, cleaning }))}>Clean it so</Act>
    </Note>
  );
}

function ProposalNote({ proposal, compiled: { field }, onTake, onOpen }: LineRowProps) {
  const { why, fine } = proposal!;
  const reason = why.replace(/^“[^”]*”: /, '');
  const deeds = (
    <>
      <Act onClick={onTake} title={`Proposed, since ${reason}`}>
        Take it
      </Act>{' '}
      <Act onClick={() => onOpen(true)}>Another</Act>
    </>
  );
  // What is sure and takes all answers is not explained line by line.
  if (isSure(proposal!)) return <p className="pl-4 text-small">{deeds}</p>;
  return (
    <Note tone={field?.required ? 'look' : 'goes'}>
      {isLikely(proposal!) ? 'Likely' : 'Perhaps'}: {reason}
      {fine === null && ' Nothing recorded answers it yet.'}
      {fine !== null && fine < 1 && ` It would take ${Math.round(fine * 100)} % of the answers.`} {deeds}
    </Note>
  );
}

/** The target has no such field any more: the line stays, and the likeliest new place is offered. */
function LooseField({ workbench: { operation, call }, compiled: { line }, onMoveTo }: LineRowProps) {
  const filled = new Set(call.lines.filter(each => each.source).map(each => each.to));
  const free = operation ? writable(operation).filter(each => !filled.has(each.key)) : [];
  const home = homeForField(line.to, free);
  return (
    <Note tone="trouble">
      A loose end: the target has no field “{line.to}” any more. The line is kept; nothing is sent from it.{' '}
      {home && <Act onClick={() => onMoveTo(home.key)}>Move it to {home.key}</Act>}
    </Note>
  );
}

/** Questions that the newest submissions do not ask any more, each with the one that likely took its place. */
function LooseQuestions({ workbench, compiled: { line }, edit }: LineRowProps) {
  const { gone: all, route, call, labelOf } = workbench;
  const gone = fieldsOf(line.source).filter(key => all.has(key));
  if (gone.length === 0) return null;
  const used = new Set(call.lines.flatMap(each => fieldsOf(each.source)));
  const free = route.form.schema.fields.filter(each => !used.has(each.key) && !all.has(each.key));
  return gone.map(key => {
    const home = homeForQuestion(key, labelOf(key), free);
    return (
      <Note key={key} tone="look">
        A loose end: the newest submissions do not ask “{labelOf(key)}” any more.{' '}
        {home && line.source?.from === 'field' && (
          <Act onClick={() => edit(each => ({ ...each, source: { from: 'first', fields: [home.key, key] } }))}>
            Take “{home.label}” first
          </Act>
        )}
      </Note>
    );
  });
}
