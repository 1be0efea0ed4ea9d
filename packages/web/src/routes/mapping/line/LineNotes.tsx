import type { RefusalView } from '@grammata/contract';
import { homeForField, homeForQuestion, isLikely, isSure, remedyFor, REMEDY_SAMPLES } from '@grammata/core/match';
import { fieldsOf } from '@grammata/core/route';
import { questionKey } from '@grammata/core/scope';
import { writable } from '@grammata/core/target';
import { checkKinds } from '@grammata/core/transform';
import { Link } from 'react-router';
import { useMemo } from 'react';
import { Act, count, counted, Note } from '../../../ui';
import { kindOf } from '../source/kindOf';
import { useWorkbench } from '../../workbench';
import type { LineRowProps } from './lineRowProps';

/** How many kinds of trouble a closed line tells of. */
const MOST_TROUBLES = 2;

/** What is said beside a line, plain facts only while it is open: what is proposed, loose, in trouble or blank, and what can be done about it. */
export function LineNotes(props: LineRowProps) {
  const { compiled, outcome, proposal, refusal, fare: totals, deeds, isOpen } = props;
  const { references, gone } = useWorkbench('offers');
  const { line, field, chain } = compiled;
  if (!field) return <LooseField {...props} />;
  if (chain.faults[0]) return <Note tone="trouble">{chain.faults[0].message}</Note>;
  if (proposal) return <ProposalNote {...props} />;
  if (line.source === null)
    return field.required ? (
      <Note tone="trouble">
        Required, but has no source. <Act onClick={() => deeds.open(line.id, true)}>Choose a source</Act>
        {line.declined && <SuggestAgain {...props} />}
      </Note>
    ) : line.declined && isOpen ? (
      <p className="pl-4 text-small">
        <SuggestAgain {...props} />
      </p>
    ) : null;
  if (!totals) return null;
  const notes = totals.troubles.slice(0, MOST_TROUBLES).map(({ code, message, ways, samples }) => (
    <Note key={code} tone="trouble">
      {samples.length > 1 && `${counted(samples.length, 'submission')}${ways > 1 ? ', for example' : ''}: `}
      {message} <ShowPlace place={samples[0]!} />
    </Note>
  ));
  const more = totals.troubles.length - MOST_TROUBLES;
  const mayPass = totals.trouble > 0 && line.whenProblem === 'stop' && !field.required;
  const loose = fieldsOf(line.source).filter(key => gone.has(key));
  const [misfit] = checkKinds(kindOf(line.source, references), line.cleaning).faults;
  return (
    <>
      {loose.length > 0 && <LooseQuestions {...props} keys={loose} />}
      {refusal && <Refused refusal={refusal} />}
      {totals.trouble > 0 && <Mended {...props} />}
      {misfit && <Note tone="look">{misfit.message}</Note>}
      {notes}
      {more > 0 && <Note tone="trouble">and {counted(more, 'more kind')} of problem.</Note>}
      {mayPass && (
        <Note tone="look">
          Such submissions are held.{' '}
          <Act onClick={() => deeds.edit(line.id)(each => ({ ...each, whenProblem: 'leaveOut' }))}>
            Leave the field out
          </Act>
        </Note>
      )}
      {isOpen && totals.trouble > 0 && line.whenProblem === 'leaveOut' && !field.required && (
        <Note tone="goes">Sent without this field.</Note>
      )}
      {isOpen && totals.blank > 0 && line.whenBlank === 'leaveOut' && totals.trouble === 0 && (
        <Note tone="fine">
          {counted(totals.blank, 'blank')} {totals.blank === 1 ? 'is' : 'are'} left out; the field is optional.
        </Note>
      )}
      {isOpen && outcome?.state === 'fine' && line.source.from === 'constant' && (
        <Note tone="fine">Same in every record.</Note>
      )}
    </>
  );
}

/** Shows a sample that stands at a place of the rehearsal. */
function ShowPlace({ place }: { place: number }) {
  const { showPlace } = useWorkbench('walk');
  return <Act onClick={() => showPlace(place)}>Show</Act>;
}

/** What the target had against the value, when it was really sent. */
function Refused({ refusal }: { refusal: RefusalView }) {
  const { target } = useWorkbench('call');
  return (
    <Note tone="trouble">
      {target?.name} rejected it for this sample: {refusal.message}.{' '}
      <Link className="act" to={`/deliveries/${refusal.deliveryId}`}>
        Open delivery
      </Link>
    </Note>
  );
}

/** What would mend a line, wherever it comes from: tried on what is recorded before it is offered. */
function Mended({ compiled: { line, field }, timeZone, deeds }: LineRowProps) {
  const { route, samples } = useWorkbench('route', 'walk');
  const key = line.source?.from === 'field' ? line.source.field : null;
  const asked = route.form.schema.fields.find(each => questionKey(each.key) === key);
  const remedy = useMemo(
    () =>
      asked && field
        ? remedyFor(
            line,
            field,
            asked,
            samples.slice(0, REMEDY_SAMPLES).map(each => each.submission),
            { timeZone },
          )
        : null,
    [line, field, asked, samples, timeZone],
  );
  if (!remedy) return null;
  const { cleaning, words, fine, of } = remedy;
  return (
    <Note tone="look">
      Fixes {fine === of ? 'all' : `${count(fine)} of ${count(of)}`}: {words || 'no steps at all'}.{' '}
      <Act onClick={() => deeds.edit(line.id)(each => ({ ...each, cleaning }))}>Apply</Act>
    </Note>
  );
}

function ProposalNote({ proposal, compiled: { line, field }, deeds }: LineRowProps) {
  const { why, fine } = proposal!;
  const reason = why.replace(/^“[^”]*”: /, '');
  const choice = (
    <>
      <Act onClick={() => deeds.take(line.id)}>Accept</Act>{' '}
      <Act onClick={() => deeds.open(line.id, true)}>Choose another</Act>{' '}
      <Act onClick={() => deeds.edit(line.id)(each => ({ ...each, declined: true }))}>Decline</Act>
    </>
  );
  // What is sure and takes all answers is not explained line by line.
  if (isSure(proposal!))
    return (
      <p className="pl-4 text-small">
        {choice} <span className="text-ink-3">{reason}</span>
      </p>
    );
  return (
    <Note tone={field?.required ? 'look' : 'goes'}>
      {isLikely(proposal!) ? 'Likely' : 'Perhaps'}: {reason}
      {fine === null && ' No stored submission answers it yet.'}
      {fine !== null && fine < 1 && ` ${Math.round(fine * 100)} % of the answers are valid.`} {choice}
    </Note>
  );
}

/** Has something proposed again for a line for which that was declined. */
const SuggestAgain = ({ compiled: { line }, deeds }: LineRowProps) => (
  <Act className="ml-3 first:ml-0" onClick={() => deeds.edit(line.id)(({ declined: _declined, ...each }) => each)}>
    Suggest again
  </Act>
);

/** The target has no such field any more: the line stays, and the likeliest new place is offered. */
function LooseField({ compiled: { line }, deeds }: LineRowProps) {
  const { operation, call } = useWorkbench('call');
  const filled = new Set(call.lines.filter(each => each.source).map(each => each.to));
  const free = operation ? writable(operation).filter(each => !filled.has(each.key)) : [];
  const home = homeForField(line.to, free);
  return (
    <Note tone="trouble">
      Field no longer exists: “{line.to}”. The line is kept but not sent.{' '}
      {home && <Act onClick={() => deeds.moveTo(line.id, home.key)}>Move to {home.key}</Act>}
    </Note>
  );
}

/** Questions that the newest submissions do not ask any more, each with the one that likely took its place. */
function LooseQuestions({ keys: gone, compiled: { line }, deeds }: LineRowProps & { keys: string[] }) {
  const { gone: all, route, call, labelOf } = useWorkbench('route', 'call', 'offers');
  const used = new Set(call.lines.flatMap(each => fieldsOf(each.source)));
  const free = route.form.schema.fields.filter(each => !used.has(each.key) && !all.has(each.key));
  return gone.map(key => {
    const home = homeForQuestion(key, labelOf(key), free);
    return (
      <Note key={key} tone="look">
        Question no longer asked: “{labelOf(key)}”.{' '}
        {home && line.source?.from === 'field' && (
          <Act
            onClick={() =>
              deeds.edit(line.id)(each => ({ ...each, source: { from: 'first', fields: [home.key, key] } }))
            }
          >
            Use “{home.label}” first
          </Act>
        )}
      </Note>
    );
  });
}
